import { InputNumber, Switch } from 'antd';
import type { Window } from '@mellow/core';

const EDGES = [['softLo', 'margin'], ['lo', 'from'], ['hi', 'to'], ['softHi', 'margin']] as const;
export interface WindowRow {
  name: string;
  label: string;
  window: Window;
  max: number;
  step: number;
  digits: number;
}

/** The numbers of a key's windows: margin, core from and to, margin; each window can be off. */
export function WindowNumbers({ rows, onSave }: { rows: readonly WindowRow[]; onSave: (name: string, window: Window) => void }) {
  return (
    <div className="numbers4" role="group" aria-label="Numbers of the key">
      <span />{EDGES.map(([edge, label]) => <span key={edge} className="quiet">{label}</span>)}
      {rows.map(({ name, label, window: w, max, step, digits }) => {
        const put = (next: Partial<Window>) => {
          const merged = { ...w, ...next };
          onSave(name, { ...merged, hi: Math.max(merged.hi, merged.lo) });
        };
        return [
          <span key={name} className="row"><Switch size="small" aria-label={`${name} window on`} checked={w.on} onChange={(on) => put({ on })} />{label}</span>,
          ...EDGES.map(([edge]) => <InputNumber key={name + edge} aria-label={`${name} ${edge}`} size="small" controls={false} disabled={!w.on} min={0} max={max} step={step} precision={digits} value={w[edge]} onChange={(v) => v !== null && put({ [edge]: v })} changeOnWheel={false} />),
        ];
      })}
    </div>
  );
}
