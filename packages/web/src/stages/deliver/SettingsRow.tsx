import { Button, Select } from 'antd';
import { useState } from 'react';
import type { RenderSettings } from '@mellow/contract';
import { useNotices } from '../../app/Notices.tsx';
import { useDropSettingsMutation, useKeepSettingsMutation, useKeptSettingsQuery } from '../../data/keptSettings.ts';
import { problemText } from '../../data/requests.ts';
import { AskName } from '../../ui/AskName.tsx';

interface Props {
  settings: RenderSettings;
  onTake: (settings: RenderSettings) => void;
}
/** Settings that were kept under names: to take, to keep those in hand, to drop. */
export function SettingsRow({ settings, onTake }: Props) {
  const { message } = useNotices();
  const { data: kept = [], isError } = useKeptSettingsQuery();
  const [keep] = useKeepSettingsMutation();
  const [drop] = useDropSettingsMutation();
  const [chosen, setChosen] = useState<string>();
  const [isNaming, setNaming] = useState(false);
  const take = (name: string) => {
    const found = kept.find((k) => k.name === name);
    setChosen(name);
    if (!found) return;
    const { name: _name, ...own } = found;
    onTake(own);
  };
  const change = async (act: Promise<{ error?: unknown }>, then: string | undefined) => {
    const { error } = await act;
    if (error) void message.error(problemText(error), 8);
    else setChosen(then);
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
        notFoundContent={isError ? 'They cannot be read from the server' : 'None is kept yet'}
        onChange={take}
      />
      <Button size="small" onClick={() => setNaming(true)}>
        Keep …
      </Button>
      {chosen !== undefined && (
        <Button size="small" onClick={() => void change(drop(chosen), undefined)}>
          Drop
        </Button>
      )}
      {isNaming && (
        <AskName
          title="Keep these settings"
          label="Name of the settings"
          ok="Keep"
          onName={(name) => void change(keep({ ...settings, name: name.trim() }), name.trim())}
          onClose={() => setNaming(false)}
        />
      )}
    </div>
  );
}
