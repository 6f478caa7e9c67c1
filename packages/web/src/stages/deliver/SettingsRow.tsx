import { Button, Select } from 'antd';
import { useState } from 'react';
import type { RenderSettings } from '@mellow/contract';
import { AskName } from '../../ui/AskName.tsx';
import { dropSettings, keepSettings, keptSettings } from '../../view/keptSettings.ts';

interface Props {
  settings: RenderSettings;
  onTake: (settings: RenderSettings) => void;
}
/** Settings that were kept under names: to take, to keep those in hand, to drop. */
export function SettingsRow({ settings, onTake }: Props) {
  const [kept, setKept] = useState(() => keptSettings(localStorage));
  const [chosen, setChosen] = useState<string>();
  const [isNaming, setNaming] = useState(false);
  const read = () => setKept(keptSettings(localStorage));
  const take = (name: string) => {
    const found = kept.find((k) => k.name === name);
    setChosen(name);
    if (found) onTake(found);
  };
  return (
    <div className="row">
      <Select
        className="grow"
        size="small"
        aria-label="Settings of your own"
        placeholder="Settings of your own"
        value={chosen}
        options={kept.map(({ name }) => ({ value: name, label: name }))}
        notFoundContent="None is kept yet"
        onChange={take}
      />
      <Button size="small" onClick={() => setNaming(true)}>
        Keep …
      </Button>
      {chosen !== undefined && (
        <Button
          size="small"
          onClick={() => {
            dropSettings(localStorage, chosen);
            setChosen(undefined);
            read();
          }}
        >
          Drop
        </Button>
      )}
      {isNaming && (
        <AskName
          title="Keep these settings"
          label="Name of the settings"
          ok="Keep"
          onName={(name) => {
            keepSettings(localStorage, { ...settings, name });
            read();
            setChosen(name.trim());
          }}
          onClose={() => setNaming(false)}
        />
      )}
    </div>
  );
}
