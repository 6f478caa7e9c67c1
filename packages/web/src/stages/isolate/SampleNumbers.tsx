import type { SampleLayer } from '@mellow/contract';
import { SAMPLE_KEY_START } from '@mellow/core';
import { NumberRows, type NumberRow } from '../../ui/NumberRows.tsx';
import type { Stack } from './useStack.ts';

const ROWS: NumberRow<'tolerance' | 'softness'>[] = [
  { key: 'tolerance', label: 'Tolerance', unit: 'σ', min: 0, max: 20, step: 0.05, digits: 2 },
  { key: 'softness', label: 'Softness', unit: 'σ', min: 0, max: 20, step: 0.05, digits: 2 },
];

/** Numbers of a sample key: how far from its clouds of picked colours a colour may lie. */
export function SampleNumbers({ layer, stack }: { layer: SampleLayer; stack: Stack }) {
  const key = layer.key!;
  return (
    <>
      <div className="quiet" style={{ marginBottom: 6 }}>
        {key.positive.length} {key.positive.length === 1 ? 'cloud' : 'clouds'} wanted, {key.negative.length} pushed
        back. Distances are in standard deviations of each cloud.
      </div>
      <div className="numbers">
        <NumberRows
          rows={ROWS}
          values={key}
          neutral={SAMPLE_KEY_START}
          of="key"
          onDrag={(name, v) => stack.dragLayer({ ...layer, key: { ...key, [name]: v } })}
          onCommit={(name, v, label) =>
            stack.saveLayer(`${label} of ${layer.name}`, { ...layer, key: { ...key, [name]: v } })
          }
        />
      </div>
    </>
  );
}
