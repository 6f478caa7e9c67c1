import { useEffect, useRef, useState } from 'react';
import type { Shift } from '@mellow/contract';
import {
  codeFromLinear,
  linear709FromLab,
  linear709FromOklab,
  oklabFromLinear709,
  oklabFromOklch,
  oklchFromOklab,
  turnDeg,
  type Lab,
} from '@mellow/core';
import { FIELD_REACH } from '../../engine/frameProtocol.ts';

const SIZE = 250;
const R = SIZE / 2 - 6;
const place = (a: number, b: number): [number, number] => [
  SIZE / 2 + (a / FIELD_REACH) * R,
  SIZE / 2 - (b / FIELD_REACH) * R,
];

interface Props {
  from: { meanLinear: readonly [number, number, number] } | undefined;
  shift: Shift;
  required: Lab | undefined;
  onDrag: (next: Partial<Shift>) => void;
  onSave: (next: Partial<Shift>) => void;
}

/** Hue round, saturation outward: the measured source colour joined with where it goes. Drag the far end. */
export function Swing({ from, shift, required, onDrag, onSave }: Props) {
  const wheel = useRef<HTMLCanvasElement>(null);
  const [held, setHeld] = useState(false);
  const source = oklchFromOklab(from ? oklabFromLinear709(from.meanLinear) : { L: 0.6, a: 0.1, b: 0 });
  const lightness = Math.round(source.L * 20) / 20;
  useEffect(() => {
    // the map in true colours at the piece's own lightness; what the screen cannot show is left dark
    const n = SIZE;
    const image = new ImageData(n, n);
    for (let y = 0; y < n; y++)
      for (let x = 0; x < n; x++) {
        const a = ((x + 0.5 - n / 2) / R) * FIELD_REACH;
        const b = ((n / 2 - y - 0.5) / R) * FIELD_REACH;
        const rgb = linear709FromOklab({ L: lightness, a, b });
        const shown = Math.hypot(a, b) <= FIELD_REACH && rgb.every((v) => v >= -0.001 && v <= 1.001);
        const j = 4 * (y * n + x);
        if (shown)
          rgb.forEach((v, c) => (image.data[j + c] = 255 * codeFromLinear('srgb', Math.min(Math.max(v, 0), 1))));
        image.data[j + 3] = shown ? 130 : 0;
      }
    wheel.current!.getContext('2d')!.putImageData(image, 0, 0);
  }, [lightness]);
  const to = oklabFromOklch({ ...source, C: source.C * shift.saturation, hDeg: source.hDeg + shift.hueDeg });
  const start = oklabFromOklch(source);
  const aim = required && oklabFromLinear709(linear709FromLab(required));
  const asShift = (e: React.PointerEvent): Partial<Shift> => {
    const box = wheel.current!.getBoundingClientRect();
    const target = oklchFromOklab({
      L: 0,
      a: ((((e.clientX - box.left) * SIZE) / box.width - SIZE / 2) / R) * FIELD_REACH,
      b: ((SIZE / 2 - ((e.clientY - box.top) * SIZE) / box.height) / R) * FIELD_REACH,
    });
    // keep the whole turns there are: go the short way from where the hue stands now
    const hueDeg = shift.hueDeg + turnDeg(source.hDeg + shift.hueDeg, target.hDeg);
    return {
      hueDeg: Math.round(hueDeg * 10) / 10,
      saturation: Math.min(Math.round((target.C / Math.max(source.C, 1e-4)) * 1000) / 1000, 4),
    };
  };
  const [x0, y0] = place(start.a, start.b);
  const [x1, y1] = place(to.a, to.b);
  return (
    <div style={{ position: 'relative', width: SIZE, height: SIZE }}>
      <canvas ref={wheel} width={SIZE} height={SIZE} style={{ position: 'absolute' }} />
      <svg
        width={SIZE}
        height={SIZE}
        style={{ position: 'absolute', touchAction: 'none' }}
        role="img"
        aria-label="Swing: from the source colour to the new one"
        onPointerMove={(e) => held && onDrag(asShift(e))}
        onPointerUp={(e) => {
          if (held) onSave(asShift(e));
          setHeld(false);
        }}
      >
        <circle cx={SIZE / 2} cy={SIZE / 2} r={R} fill="none" stroke="var(--line)" />
        <circle cx={SIZE / 2} cy={SIZE / 2} r={R / 2} fill="none" stroke="var(--line)" />
        {aim && (
          <g>
            <circle
              cx={place(aim.a, aim.b)[0]}
              cy={place(aim.a, aim.b)[1]}
              r={11}
              fill="none"
              stroke="#000"
              strokeWidth={3}
            />
            <circle
              cx={place(aim.a, aim.b)[0]}
              cy={place(aim.a, aim.b)[1]}
              r={11}
              fill="none"
              stroke="#fff"
              strokeDasharray="3 2"
            />
            <title>required</title>
          </g>
        )}
        {!from && (
          <text x={SIZE / 2} y={SIZE - 14} textAnchor="middle" fontSize={12} fill="var(--text)">
            nothing measured on this frame
          </text>
        )}
        <g display={from ? undefined : 'none'}>
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
            onPointerDown={(e) => {
              e.currentTarget.ownerSVGElement!.setPointerCapture(e.pointerId);
              setHeld(true);
            }}
          />
        </g>
      </svg>
    </div>
  );
}
