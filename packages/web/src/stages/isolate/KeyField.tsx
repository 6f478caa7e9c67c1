import { useCallback, useEffect, useState } from 'react';
import { FIELD_REACH, type ColourDensity, type Oklab, type RangeKey } from '@mellow/core';
import { useAppDispatch, useAppSelector } from '../../app/store.ts';
import { fieldHovered } from '../../view/pointedSlice.ts';
import { keepsPointer, PolarField, Ring } from '../../ui/PolarField.tsx';
import { planeOf, polarMap } from '../../ui/polarMap.ts';
import { useHeld } from '../../ui/useHeld.ts';
import { moved, type KeyGrip } from './keyGrips.ts';

const SIZE = 300;
const MARGIN = 8;
const MAP = polarMap(SIZE, MARGIN);
const at = (C: number, hDeg: number) => MAP.placeOf(planeOf(C, hDeg));

/** Outline of a hue and chroma window on the map. */
function sector(c0: number, c1: number, h0: number, h1: number): string {
  const arc = (C: number, from: number, to: number) =>
    Array.from({ length: 25 }, (_, i) =>
      at(C, from + ((to - from) * i) / 24)
        .map((v) => v.toFixed(1))
        .join(' '),
    );
  return `M${[...arc(c1, h0, h1), ...arc(Math.max(c0, 0), h1, h0)].join('L')}Z`;
}

type Plane = Pick<Oklab, 'a' | 'b'>;
interface Props {
  /** The key drawn on it; without one the field only shows the picture's colours. */
  value: RangeKey | undefined;
  density: ColourDensity | undefined;
  onDrag: (key: RangeKey) => void;
  onSave: (what: string, key: RangeKey) => void;
}

/**
 * Colours as a map: hue round, chroma outward, the frame's own pixels as a cloud; the key's core solid, its margin
 * dashed. A ring shows the pixel under the pointer in the picture; pointing at the field shows in the picture which
 * pixels it means.
 */
export function KeyField({ value: own, density, onDrag, onSave }: Props) {
  const [grip, setGrip] = useState<KeyGrip>();
  const { shown: key, hold, letGo } = useHeld(own);
  const dispatch = useAppDispatch();
  const probe = useAppSelector((s) => s.pointed.probe?.oklab);
  const paint = useCallback(
    (context: CanvasRenderingContext2D) => {
      if (!density) return;
      const small = document.createElement('canvas');
      Object.assign(small, { width: density.size, height: density.size });
      small.getContext('2d')!.putImageData(new ImageData(density.rgba, density.size, density.size), 0, 0);
      context.drawImage(small, MARGIN, MARGIN, 2 * MAP.radius, 2 * MAP.radius);
    },
    [density],
  );
  useEffect(() => () => void dispatch(fieldHovered(null)), [dispatch]);

  const pulledTo = ({ a, b }: Plane) =>
    moved(key!, grip!, { C: Math.hypot(a, b), hDeg: (Math.atan2(b, a) * 180) / Math.PI });
  const move = (to: Plane) => {
    if (grip && key) {
      const next = pulledTo(to);
      hold(next);
      return onDrag(next);
    }
    const isColour = Math.hypot(to.a, to.b) <= FIELD_REACH;
    dispatch(fieldHovered(isColour ? { a: Math.round(to.a * 1000) / 1000, b: Math.round(to.b * 1000) / 1000 } : null));
  };
  const up = (to: Plane) => {
    if (grip && key) onSave(grip.startsWith('chroma') ? 'chroma' : 'hue', pulledTo(to));
    setGrip(undefined);
    letGo();
  };
  const dot = probe && MAP.placeOf(probe);
  return (
    <PolarField
      label="Hue and chroma of the frame and of the key"
      map={MAP}
      paint={paint}
      onMove={move}
      onUp={up}
      onLeave={() => dispatch(fieldHovered(null))}
      style={{ margin: '8px auto' }}
    >
      {[0.08, 0.16, 0.24, 0.32].map((C) => (
        <Ring key={C} map={MAP} share={C / FIELD_REACH} />
      ))}
      {[0, 60, 120, 180, 240, 300].map((h) => (
        <text
          key={h}
          x={at(FIELD_REACH * 0.95, h)[0]}
          y={at(FIELD_REACH * 0.95, h)[1] + 4}
          textAnchor="middle"
          fontSize={12}
          fill="var(--quiet)"
        >
          {h}°
        </text>
      ))}
      {key && (
        <Outlines
          value={key}
          onHold={(g, e) => {
            keepsPointer(e);
            dispatch(fieldHovered(null));
            setGrip(g);
          }}
        />
      )}
      {dot && <circle cx={dot[0]} cy={dot[1]} r={6} fill="none" stroke="#fff" strokeWidth={2} data-probe-mark />}
    </PolarField>
  );
}

function Outlines({
  value: { hue, chroma },
  onHold,
}: {
  value: RangeKey;
  onHold: (grip: KeyGrip, e: React.PointerEvent<SVGCircleElement>) => void;
}) {
  const [h0, h1] = hue.on ? [hue.lo, hue.hi] : [0, 360];
  const [c0, c1] = chroma.on ? [chroma.lo, Math.min(chroma.hi, FIELD_REACH)] : [0, FIELD_REACH];
  const middle = (h0 + h1) / 2;
  const half = (c0 + c1) / 2;
  const grips: { grip: KeyGrip; place: [number, number] }[] = [
    ...(hue.on
      ? (
          [
            ['hueLo', h0],
            ['hueHi', h1],
            ['softLo', h0 - hue.softLo],
            ['softHi', h1 + hue.softHi],
          ] as const
        ).map(([grip, h]) => ({ grip, place: at(half, h) }))
      : []),
    ...(chroma.on
      ? (
          [
            ['chromaLo', c0],
            ['chromaHi', c1],
            ['chromaSoftLo', Math.max(c0 - chroma.softLo, 0)],
            ['chromaSoftHi', Math.min(c1 + chroma.softHi, FIELD_REACH)],
          ] as const
        ).map(([grip, C]) => ({ grip, place: at(C, middle) }))
      : []),
  ];
  const soft = (grip: KeyGrip) => grip.toLowerCase().includes('soft');
  return (
    <>
      <path
        d={sector(
          chroma.on ? c0 - chroma.softLo : 0,
          Math.min(c1 + (chroma.on ? chroma.softHi : 0), FIELD_REACH),
          h0 - (hue.on ? hue.softLo : 0),
          h1 + (hue.on ? hue.softHi : 0),
        )}
        fill="none"
        stroke="var(--text)"
        strokeDasharray="4 3"
      />
      <path d={sector(c0, c1, h0, h1)} fill="rgba(255,255,255,0.06)" stroke="var(--text)" strokeWidth={1.6} />
      {grips.map((g) => (
        <circle
          key={g.grip}
          data-grip={g.grip}
          cx={g.place[0]}
          cy={g.place[1]}
          r={soft(g.grip) ? 4 : 6}
          fill={soft(g.grip) ? 'var(--panel)' : '#fff'}
          stroke={soft(g.grip) ? '#fff' : '#000'}
          style={{ cursor: 'pointer' }}
          onPointerDown={(e) => onHold(g.grip, e)}
        />
      ))}
    </>
  );
}
