import type { Primaries, Rgb } from '@mellow/core';
import type { Phase } from '../../../editing/drag.ts';
import { NumberCell } from '../../../ui/NumberField.tsx';
import { NumberRows, type NumberRow } from '../../../ui/NumberRows.tsx';

const ROWS: NumberRow<'exposureStops' | 'warmthMired' | 'tint' | 'saturation'>[] = [
  { key: 'exposureStops', label: 'Exposure', unit: 'stops', min: -8, max: 8, step: 0.05, digits: 2 },
  { key: 'warmthMired', label: 'Warmth', unit: 'mired', min: -60, max: 90, step: 0.5, digits: 1 },
  { key: 'tint', label: 'Tint', unit: 'Duv ‰', min: -50, max: 50, step: 0.2, digits: 1 },
  { key: 'saturation', label: 'Saturation', unit: '%', min: 0, max: 400, step: 1, digits: 0, scale: 100 },
];
const CHANNELS = ['red', 'green', 'blue'] as const;
const BY_CHANNEL = [
  { key: 'gain', label: 'Gain', min: 0, max: 8 },
  { key: 'slope', label: 'Slope', min: 0, max: 8 },
  { key: 'offset', label: 'Offset', min: -1, max: 1 },
  { key: 'power', label: 'Power', min: 0.1, max: 8 },
] as const;

interface Props {
  /** Dotted name, and what the names of its numbers begin with. */
  of: string;
  name: string;
  value: Primaries;
  neutral: Primaries;
  onSet: (next: Partial<Primaries>, phase: Phase, what?: string) => void;
}

/** Primaries in numbers: four of all channels, four of each. */
export function PrimaryNumbers({ of, name, value, neutral, onSet }: Props) {
  const nameOf = (label: string) => `${name} ${label.toLowerCase()}`;
  const withChannel = (key: (typeof BY_CHANNEL)[number]['key'], channel: keyof Rgb, v: number) => ({
    [key]: { ...value[key], [channel]: v },
  });
  return (
    <>
      <div className="numbers">
        <NumberRows
          rows={ROWS}
          values={value}
          neutral={neutral}
          of={of}
          nameOf={nameOf}
          onDrag={(key, v) => onSet({ [key]: v }, 'drag')}
          onCommit={(key, v, what) => onSet({ [key]: v }, 'done', what)}
        />
      </div>
      <div className="numbers3">
        <span />
        {CHANNELS.map((channel) => (
          <span key={channel} className="quiet">
            {channel}
          </span>
        ))}
        {BY_CHANNEL.map(({ key, label, min, max }) => [
          <span key={key}>{label}</span>,
          ...CHANNELS.map((channel) => (
            <NumberCell
              key={`${key} ${channel}`}
              name={nameOf(`${label} ${channel}`)}
              min={min}
              max={max}
              step={0.005}
              digits={3}
              neutral={neutral[key][channel]}
              value={value[key][channel]}
              onDrag={(v) => onSet(withChannel(key, channel, v), 'drag')}
              onCommit={(v) => onSet(withChannel(key, channel, v), 'done', nameOf(`${label} ${channel}`))}
            />
          )),
        ])}
      </div>
    </>
  );
}
