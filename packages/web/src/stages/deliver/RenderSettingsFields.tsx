import { Checkbox, InputNumber, Select } from 'antd';
import { PRESET_GROUPS, PRESETS, type NameWords, type Preset, type RenderSettings } from '@mellow/contract';
import { NameRow } from './NameRow.tsx';
import { SettingsRow } from './SettingsRow.tsx';

/** What the list of formats shows, by what they are for. */
const FORMATS = PRESET_GROUPS.map((group) => ({
  label: group,
  options: (Object.keys(PRESETS) as Preset[])
    .filter((key) => PRESETS[key].group === group)
    .map((value) => ({ value, label: PRESETS[value].label })),
}));

interface Props {
  settings: RenderSettings;
  onChange: (changed: Partial<RenderSettings>) => void;
  hasLook: boolean;
  /** A chosen shot is a part of its footage. */
  hasParts: boolean;
  /** Of the first file. */
  words: NameWords;
}
/** How the chosen shots are rendered. */
export function RenderSettingsFields({ settings, onChange, hasLook, hasParts, words }: Props) {
  const { preset, withLook, burnIn, handles, namePattern, toFolder } = settings;
  return (
    <>
      <h2>Format</h2>
      <SettingsRow settings={settings} onTake={onChange} />
      <Select
        aria-label="Format"
        value={preset}
        onChange={(next) => onChange({ preset: next })}
        options={FORMATS}
        listHeight={420}
      />
      <span className="quiet">{PRESETS[preset].detail}</span>
      {hasLook && (
        <Checkbox checked={withLook} onChange={(e) => onChange({ withLook: e.target.checked })}>
          Through the look
        </Checkbox>
      )}
      {PRESETS[preset].group === 'For review' && (
        <Checkbox checked={burnIn} onChange={(e) => onChange({ burnIn: e.target.checked })}>
          Burn in name, timecode and frame
        </Checkbox>
      )}
      {hasParts && (
        <span className="row">
          <span className="grow">Frames more at either end</span>
          <InputNumber
            aria-label="Handles, frames"
            size="small"
            min={0}
            max={1000}
            precision={0}
            value={handles}
            onChange={(v) => onChange({ handles: v ?? 0 })}
          />
        </span>
      )}
      <NameRow
        pattern={namePattern}
        words={words}
        preset={preset}
        onChange={(next) => onChange({ namePattern: next })}
      />
      <Checkbox checked={toFolder} onChange={(e) => onChange({ toFolder: e.target.checked })}>
        Also into the server’s render folder
      </Checkbox>
    </>
  );
}
