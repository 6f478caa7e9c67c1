import type { SampleLayer } from '@mellow/contract';
import { NumberField } from '../../ui/NumberField.tsx';
import type { Stack } from './useStack.ts';

/** Numbers of a sample key: how far from its clouds of picked colours a colour may lie. */
export function SampleNumbers({ layer, stack }: { layer: SampleLayer; stack: Stack }) {
  const key = layer.key!;
  const field = (label: string, name: 'tolerance' | 'softness', neutral: number) => (
    <NumberField
      animates={`key.${name}`}
      label={label}
      value={key[name]}
      unit="σ"
      min={0}
      max={20}
      step={0.05}
      digits={2}
      neutral={neutral}
      onDrag={(v) => stack.dragLayer({ ...layer, key: { ...key, [name]: v } })}
      onCommit={(v) => stack.saveLayer(`${label} of ${layer.name}`, { ...layer, key: { ...key, [name]: v } })}
    />
  );
  return (
    <>
      <div className="quiet" style={{ marginBottom: 6 }}>
        {key.positive.length} {key.positive.length === 1 ? 'cloud' : 'clouds'} wanted, {key.negative.length} pushed
        back. Distances are in standard deviations of each cloud.
      </div>
      <div className="numbers">
        {field('Tolerance', 'tolerance', 2.5)}
        {field('Softness', 'softness', 1.5)}
      </div>
    </>
  );
}
