import { Button } from 'antd';
import type { CleanUp } from '@mellow/contract';
import { NO_CLEAN_UP } from '@mellow/core';
import { NumberRows, type NumberRow } from '../../ui/NumberRows.tsx';

interface Props {
  /** “stack” or a layer's name: of what the history speaks. */
  of: string;
  value: CleanUp | null | undefined;
  onDrag: (next: CleanUp) => void;
  onSave: (label: string, next: CleanUp) => void;
}
const ROWS: NumberRow<keyof CleanUp>[] = [
  { key: 'quietPx', label: 'Quiet', unit: 'px', min: 0, max: 200, step: 0.5, digits: 1 },
  { key: 'floor', label: 'Floor', unit: '%', min: 0, max: 99, step: 1, digits: 0, scale: 100 },
  { key: 'ceiling', label: 'Ceiling', unit: '%', min: 1, max: 100, step: 1, digits: 0, scale: 100 },
  { key: 'islandsPx', label: 'Despeckle islands', unit: 'px²', min: 0, max: 1e7, step: 10, digits: 0 },
  { key: 'holesPx', label: 'Despeckle holes', unit: 'px²', min: 0, max: 1e7, step: 10, digits: 0 },
  { key: 'edgePx', label: 'Edge − +', unit: 'px', min: -500, max: 500, step: 0.1, digits: 1 },
  { key: 'softenPx', label: 'Soften', unit: 'px', min: 0, max: 500, step: 0.1, digits: 1 },
  { key: 'softenBias', label: 'Soften in/out', unit: '', min: -1, max: 1, step: 0.05, digits: 2 },
  { key: 'fitEdge', label: 'Fit edge', unit: '%', min: 0, max: 30, step: 1, digits: 0, scale: 100 },
];

/** Clean-up in the order it is done; pixels of the full picture. Floor and ceiling push each other along. */
export function CleanUpNumbers({ of, value, onDrag, onSave }: Props) {
  const now = value ?? NO_CLEAN_UP;
  const next = (key: keyof CleanUp, v: number): CleanUp => {
    const changed = { ...now, [key]: v };
    if (key === 'floor') changed.ceiling = Math.max(changed.ceiling, v + 0.01);
    if (key === 'ceiling') changed.floor = Math.min(changed.floor, v - 0.01);
    return changed;
  };
  return (
    <section aria-label={`Clean-up of ${of}`}>
      <h2 style={{ marginBottom: 8 }}>
        Clean-up{' '}
        <span className="quiet" style={{ flex: 1 }} title={`Of ${of}, in this order`}>
          of {of}, in this order
        </span>
        <Button size="small" disabled={!value} onClick={() => onSave(`Reset the clean-up of ${of}`, NO_CLEAN_UP)}>
          Reset
        </Button>
      </h2>
      <div className="numbers">
        <NumberRows
          rows={ROWS}
          values={now}
          neutral={NO_CLEAN_UP}
          of="cleanUp"
          nameOf={(label) => `${label} of ${of}`}
          onDrag={(key, v) => onDrag(next(key, v))}
          onCommit={(key, v, name) => onSave(name, next(key, v))}
        />
      </div>
    </section>
  );
}
