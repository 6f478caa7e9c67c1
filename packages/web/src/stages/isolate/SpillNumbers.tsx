import { Segmented } from 'antd';
import type { Spill } from '@mellow/contract';
import { NO_SPILL } from '@mellow/core';
import { NumberField } from '../../ui/NumberField.tsx';

/** The old colour's bounce and fringe outside the matte: leave it, carry the recolour there, or take it out. */
export function SpillNumbers({ value, onDrag, onSave }: { value: Spill | null | undefined; onDrag: (next: Spill) => void; onSave: (label: string, next: Spill) => void }) {
  const now: Spill = value ?? NO_SPILL;
  const field = (label: string, key: 'reachPx' | 'amount' | 'tolerance', unit: string, min: number, max: number, step: number, digits: number, scale = 1) => (
    <NumberField keyed={`spill.${key}`} label={label} name={`Spill ${label.toLowerCase()}`} unit={unit} min={min} max={max} step={step} digits={digits} value={now[key] * scale} neutral={NO_SPILL[key] * scale} onDrag={(v) => onDrag({ ...now, [key]: v / scale })} onCommit={(v) => onSave(`Spill ${label.toLowerCase()}`, { ...now, [key]: v / scale })} />
  );
  return (
    <section aria-label="Spill">
      <h2 style={{ marginBottom: 8 }}>Spill <span className="quiet">the old colour round the piece</span></h2>
      <Segmented aria-label="Spill" block options={['off', 'follow', 'remove'] as Spill['mode'][]} value={now.mode} onChange={(mode) => onSave(`Spill: ${mode}`, { ...now, mode })} />
      <div className="quiet" style={{ margin: '6px 0' }}>
        {now.mode === 'off' ? 'Bounce on the floor and a fringe at the edge stay as they are.' : now.mode === 'follow' ? 'What carries the old colour takes on the new one, in proportion.' : 'What carries the old colour goes back to the colour of its surroundings.'} {now.mode !== 'off' && 'Tint shows in yellow-green what is taken; Difference what it does.'}
      </div>
      {now.mode !== 'off' && <div className="numbers">{field('Reach', 'reachPx', 'px', 0, 1000, 1, 0)}{field('Amount', 'amount', '%', 0, 100, 1, 0, 100)}{field('Tolerance', 'tolerance', '', 0.001, 0.4, 0.001, 3)}</div>}
    </section>
  );
}
