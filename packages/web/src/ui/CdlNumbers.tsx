import type { Cdl } from '@mellow/core';
import { NumberField } from './NumberField.tsx';

const CHANNELS = ['red', 'green', 'blue'] as const;
const NUMBERS = [
  { key: 'slope', label: 'Slope', min: 0, max: 8, neutral: 1 },
  { key: 'offset', label: 'Offset', min: -1, max: 1, neutral: 0 },
  { key: 'power', label: 'Power', min: 0.1, max: 8, neutral: 1 },
] as const;
type Channels = Pick<Cdl, 'slope' | 'offset' | 'power'>;
interface Props {
  cdl: Channels;
  /** What a screen reader calls a number; as it is labelled where nothing is said. */
  nameOf?: (label: string) => string;
  onDrag: (changed: Partial<Channels>) => void;
  onSave: (label: string, changed: Partial<Channels>) => void;
}

/** Slope, offset and power of an ASC CDL, a channel each. */
export function CdlNumbers({ cdl, nameOf = (label) => label, onDrag, onSave }: Props) {
  return NUMBERS.map(({ key, label, min, max, neutral }) => {
    const at = (channel: number, v: number): Partial<Channels> => ({
      [key]: cdl[key].map((old, c) => (c === channel ? v : old)),
    });
    return (
      <section key={key}>
        <h3>{label}</h3>
        <div className="numbers">
          {CHANNELS.map((channel, c) => (
            <NumberField
              key={channel}
              label={channel}
              name={nameOf(`${label} ${channel}`)}
              min={min}
              max={max}
              step={0.005}
              digits={3}
              neutral={neutral}
              value={cdl[key][c]!}
              onDrag={(v) => onDrag(at(c, v))}
              onCommit={(v) => onSave(`${label} ${channel}`, at(c, v))}
            />
          ))}
        </div>
      </section>
    );
  });
}
