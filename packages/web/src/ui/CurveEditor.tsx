import { useState } from 'react';
import { CURVE_POINTS, curveOf, LEAST_STEP, type Curve, type CurvePoint } from '@mellow/core';
import type { Phase } from '../editing/drag.ts';
import { NumberField } from './NumberField.tsx';
import { useHeld } from './useHeld.ts';
import { MARGIN, pathIn, PointField, type Spot } from './PointField.tsx';

const SIZE = 210;
const STEPS = 100;

interface Props {
  /** Dotted name of the curve in what is animated; left out: it has no keyframes. */
  of?: string;
  name: string;
  value: Curve;
  neutral: Curve;
  onSet: (next: Curve, phase: Phase, what: string) => void;
}
/** A point stays between its neighbours. */
function between(curve: Curve, name: CurvePoint, { x, y }: Spot): { at: number; to: number } {
  const i = CURVE_POINTS.indexOf(name);
  const [before, after] = [CURVE_POINTS[i - 1], CURVE_POINTS[i + 1]];
  const clamp = (v: number, low: number, high: number) => Number(Math.min(Math.max(v, low), high).toFixed(4));
  return {
    at: clamp(x, before ? curve[before].at + LEAST_STEP : 0, after ? curve[after].at - LEAST_STEP : 1),
    to: clamp(y, before ? curve[before].to : 0, after ? curve[after].to : 1),
  };
}

/** A monotone curve through five points that are dragged, and the chosen one in numbers. */
export function CurveEditor({ of, name, value: own, neutral, onSet }: Props) {
  const { shown: value, hold, letGo } = useHeld(own);
  const [chosen, setChosen] = useState<CurvePoint>('middle');
  const curve = curveOf(value);
  const line = Array.from({ length: STEPS + 1 }, (_, i) => ({
    x: i / STEPS,
    y: Math.min(Math.max(curve(i / STEPS), 0), 1),
  }));
  const set = (point: string, to: Spot, phase: Phase) => {
    const next = { ...value, [point]: between(value, point as CurvePoint, to) };
    if (phase === 'drag') hold(next);
    else letGo();
    onSet(next, phase, `${name}: ${point}`);
  };
  const number = (part: 'at' | 'to') => {
    const spot = (v: number): Spot => {
      const { at, to } = value[chosen];
      return part === 'at' ? { x: v / 100, y: to } : { x: at, y: v / 100 };
    };
    return (
      <NumberField
        key={`${chosen} ${part}`}
        label={part === 'at' ? `${chosen} at` : 'becomes'}
        name={`${name} ${part === 'at' ? 'at' : 'becomes'}`}
        {...(of && { animates: `${of}.${chosen}.${part}` })}
        unit="%"
        min={0}
        max={100}
        step={0.5}
        digits={1}
        neutral={neutral[chosen][part] * 100}
        value={value[chosen][part] * 100}
        onDrag={(v) => set(chosen, spot(v), 'drag')}
        onCommit={(v) => set(chosen, spot(v), 'done')}
      />
    );
  };
  return (
    <>
      <PointField
        label={name}
        width={SIZE}
        height={SIZE}
        isFree
        chosen={chosen}
        points={CURVE_POINTS.map((point) => ({
          name: point,
          x: value[point].at,
          y: value[point].to,
          text: `${Math.round(100 * value[point].at)} % becomes ${Math.round(100 * value[point].to)} %`,
        }))}
        onChoose={(point) => setChosen(point as CurvePoint)}
        onDrag={(point, to) => set(point, to, 'drag')}
        onSave={(point, to) => set(point, to, 'done')}
        onReset={(point) =>
          set(point, { x: neutral[point as CurvePoint].at, y: neutral[point as CurvePoint].to }, 'done')
        }
      >
        <rect
          x={MARGIN}
          y={MARGIN}
          width={SIZE - 2 * MARGIN}
          height={SIZE - 2 * MARGIN}
          fill="var(--panel)"
          stroke="var(--line)"
        />
        <path
          d={pathIn(SIZE, SIZE, [
            { x: 0, y: 0 },
            { x: 1, y: 1 },
          ])}
          stroke="var(--quiet)"
          strokeDasharray="3 3"
        />
        <path d={pathIn(SIZE, SIZE, line)} fill="none" stroke="var(--text)" strokeWidth={1.6} />
      </PointField>
      <div className="numbers">
        {number('at')}
        {number('to')}
      </div>
    </>
  );
}
