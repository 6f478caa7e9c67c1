import { Switch } from 'antd';
import type { Window } from '@mellow/core';
import { KeyframeButton, NumberCell } from '../../ui/NumberField.tsx';

/** The numbers of a window: what each stands under, and what it is called in full. */
const EDGES = [
  ['softLo', 'margin', 'lower softness'],
  ['lo', 'from', 'from'],
  ['hi', 'to', 'to'],
  ['softHi', 'margin', 'upper softness'],
] as const;
interface WindowRow {
  name: string;
  label: string;
  window: Window;
  /**
   * What the picks alone would set: where a double click goes back to. Without picks there is nothing to go back to.
   */
  solved: Window | undefined;
  max: number;
  step: number;
  digits: number;
}
interface Props {
  rows: readonly WindowRow[];
  onDrag: (name: string, window: Window) => void;
  onSave: (name: string, window: Window) => void;
}

/** The numbers of a key's windows: margin, core from and to, margin; each window can be off. */
export function WindowNumbers({ rows, onDrag, onSave }: Props) {
  return (
    <div className="numbers4" role="group" aria-label="Numbers of the key">
      <span />
      {EDGES.map(([edge, label]) => (
        <span key={edge} className="quiet">
          {label}
        </span>
      ))}
      {rows.map(({ name, label, window: w, solved, max, step, digits }) => {
        const with_ = (next: Partial<Window>): Window => {
          const merged = { ...w, ...next };
          return { ...merged, hi: Math.max(merged.hi, merged.lo) };
        };
        return [
          <span key={name} className="row">
            <Switch
              size="small"
              aria-label={`${name} window on`}
              checked={w.on}
              onChange={(on) => onSave(name, with_({ on }))}
            />
            {label}
            <KeyframeButton name={`the ${name} window`} animates={EDGES.map(([edge]) => `key.${name}.${edge}`)} />
          </span>,
          ...EDGES.map(([edge, , inFull]) => (
            <NumberCell
              key={name + edge}
              name={`${name}, ${inFull}`}
              disabled={!w.on}
              min={0}
              max={max}
              step={step}
              digits={digits}
              value={w[edge]}
              neutral={solved?.[edge]}
              onDrag={(v) => onDrag(name, with_({ [edge]: v }))}
              onCommit={(v) => onSave(name, with_({ [edge]: v }))}
            />
          )),
        ];
      })}
    </div>
  );
}
