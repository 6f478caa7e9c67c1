import { useCallback, useState } from 'react';
import type { Gain, Shift } from '@mellow/contract';
import { BEND_HANDLES, linear709FromLab, oklabFromLinear709, type BendName, type Finer, type Lab } from '@mellow/core';
import type { Phase } from '../../editing/drag.ts';
import { keepsPointer, PolarField, Ring } from '../../ui/PolarField.tsx';
import { useHeld } from '../../ui/useHeld.ts';
import { hueMap, MAP, matchedOklab, shiftTowards, SIZE, swungTo } from './swingMap.ts';

interface Props {
  from: { meanLinear: readonly [number, number, number] } | undefined;
  match: Gain;
  shift: Shift;
  finer: Finer;
  required: Lab | undefined;
  /** The outline of what can be matched at the required lightness. */
  reach: readonly { a: number; b: number }[] | undefined;
  onDrag: (next: Partial<Shift>) => void;
  onSave: (next: Partial<Shift>) => void;
  onBend: (handle: BendName, to: { da: number; db: number }, phase: Phase) => void;
}
const rounded = (v: number) => Math.round(v * 1e4) / 1e4;
/** Stands for the piece's colour while nothing is measured. */
const NOT_MEASURED = { L: 0.6, a: 0.1, b: 0 };

/** Hue round, saturation outward: the measured source colour joined with where it goes. Drag the far end. */
export function Swing({ from, match, shift: own, finer: ownFiner, required, reach, onDrag, onSave, onBend }: Props) {
  const [held, setHeld] = useState<'to' | BendName>();
  const { shown, hold: pull, letGo: rest } = useHeld({ shift: own, finer: ownFiner });
  const { shift, finer } = shown;
  const source = from ? oklabFromLinear709(from.meanLinear) : NOT_MEASURED;
  // what a hand swings is what the match has made of it
  const base = matchedOklab(source, match, finer);
  // in steps: the map need not be drawn anew for every frame
  const lightness = Math.round(source.L * 20) / 20;
  const paint = useCallback(
    (context: CanvasRenderingContext2D) => context.putImageData(new ImageData(hueMap(lightness), SIZE, SIZE), 0, 0),
    [lightness],
  );
  const follow = (there: { a: number; b: number }, phase: Phase) => {
    if (!held) return;
    if (held !== 'to') {
      const handle = finer.bend[held];
      const to = { da: rounded(there.a - handle.a), db: rounded(there.b - handle.b) };
      pull({ shift, finer: { ...finer, bend: { ...finer.bend, [held]: { ...handle, ...to } } } });
      return onBend(held, to, phase);
    }
    const next = shiftTowards(base, shift, there);
    pull({ finer, shift: { ...shift, ...next } });
    (phase === 'drag' ? onDrag : onSave)(next);
  };
  const hold = (what: 'to' | BendName) => (e: React.PointerEvent<SVGElement>) => {
    keepsPointer(e);
    setHeld(what);
  };
  const letGo = (there: { a: number; b: number }) => {
    follow(there, 'done');
    setHeld(undefined);
    rest();
  };
  return (
    <PolarField
      label="Swing: from the source colour to the new one"
      map={MAP}
      paint={paint}
      onMove={(there) => follow(there, 'drag')}
      onUp={letGo}
    >
      <Ring map={MAP} share={1} />
      <Ring map={MAP} share={0.5} />
      {reach && <Reach outline={reach} />}
      {required && <Aim at={MAP.placeOf(oklabFromLinear709(linear709FromLab(required)))} />}
      {from ? (
        <Arm from={MAP.placeOf(source)} to={MAP.placeOf(swungTo(base, shift))} onHold={hold('to')} />
      ) : (
        <text x={SIZE / 2} y={SIZE - 14} textAnchor="middle" fontSize={12} fill="var(--text)">
          nothing measured on this frame
        </text>
      )}
      {finer.bend.on &&
        BEND_HANDLES.filter((name) => finer.bend[name].on).map((name) => {
          const { a, b, da, db } = finer.bend[name];
          return (
            <Pulled
              key={name}
              from={MAP.placeOf({ a, b })}
              to={MAP.placeOf({ a: a + da, b: b + db })}
              onHold={hold(name)}
            />
          );
        })}
    </PolarField>
  );
}

/** Round what can be reached by a match: past it, the encoding cuts the piece's colours off. */
function Reach({ outline }: { outline: readonly { a: number; b: number }[] }) {
  const points = outline
    .map((p) =>
      MAP.placeOf(p)
        .map((v) => v.toFixed(1))
        .join(','),
    )
    .join(' ');
  return (
    <polygon points={points} fill="none" stroke="#fff" strokeOpacity={0.75} strokeDasharray="1 3" strokeWidth={1.5}>
      <title>what a match can reach at the required lightness</title>
    </polygon>
  );
}

type Spot = readonly [number, number];
/** Where the required colour lies. */
function Aim({ at: [x, y] }: { at: Spot }) {
  return (
    <g>
      <circle cx={x} cy={y} r={11} fill="none" stroke="#000" strokeWidth={3} />
      <circle cx={x} cy={y} r={11} fill="none" stroke="#fff" strokeDasharray="3 2" />
      <title>required</title>
    </g>
  );
}

interface ArmProps {
  from: Spot;
  to: Spot;
  onHold: (e: React.PointerEvent<SVGElement>) => void;
}
/** A handle of the bend: where it sits, and where it was pulled to. */
function Pulled({ from: [x0, y0], to: [x1, y1], onHold }: ArmProps) {
  return (
    <g>
      <line x1={x0} y1={y0} x2={x1} y2={y1} stroke="#fff" strokeDasharray="2 2" />
      <circle cx={x0} cy={y0} r={2.5} fill="#fff" stroke="#000" />
      <circle
        data-grip="bend"
        cx={x1}
        cy={y1}
        r={6}
        fill="var(--panel)"
        stroke="#fff"
        strokeWidth={1.6}
        style={{ cursor: 'grab' }}
        onPointerDown={onHold}
      />
    </g>
  );
}
function Arm({ from: [x0, y0], to: [x1, y1], onHold }: ArmProps) {
  return (
    <g>
      <line x1={x0} y1={y0} x2={x1} y2={y1} stroke="#000" strokeWidth={3} />
      <line x1={x0} y1={y0} x2={x1} y2={y1} stroke="#fff" strokeWidth={1.4} />
      <rect x={x0 - 5} y={y0 - 5} width={10} height={10} rx={3} fill="var(--panel)" stroke="#fff" />
      <rect
        data-grip="to"
        x={x1 - 8}
        y={y1 - 8}
        width={16}
        height={16}
        rx={5}
        fill="#fff"
        stroke="#000"
        style={{ cursor: 'grab' }}
        onPointerDown={onHold}
      />
    </g>
  );
}
