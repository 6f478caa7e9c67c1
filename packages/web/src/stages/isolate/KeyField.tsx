import { useEffect, useRef, useState } from 'react';
import { FIELD_REACH, type ColourDensity, type RangeKey } from '@mellow/core';
import { useAppDispatch, useAppSelector } from '../../app/store.ts';
import { fieldHovered } from '../../view/pointedSlice.ts';
import { useHeld } from '../../ui/useHeld.ts';
import { moved, type KeyGrip } from './keyGrips.ts';

const SIZE = 300;
const R = SIZE / 2 - 8;
const at = (C: number, hDeg: number): [number, number] => [
  SIZE / 2 + (C / FIELD_REACH) * R * Math.cos((hDeg * Math.PI) / 180),
  SIZE / 2 - (C / FIELD_REACH) * R * Math.sin((hDeg * Math.PI) / 180),
];

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
  const cloud = useRef<HTMLCanvasElement>(null);
  const [grip, setGrip] = useState<KeyGrip>();
  const { shown: key, hold, letGo } = useHeld(own);
  const dispatch = useAppDispatch();
  const probe = useAppSelector((s) => s.pointed.probe?.oklab);
  useEffect(() => {
    if (!density) return;
    const small = document.createElement('canvas');
    Object.assign(small, { width: density.size, height: density.size });
    small.getContext('2d')!.putImageData(new ImageData(density.rgba, density.size, density.size), 0, 0);
    const g = cloud.current!.getContext('2d')!;
    g.clearRect(0, 0, SIZE, SIZE);
    g.drawImage(small, 8, 8, 2 * R, 2 * R);
  }, [density]);
  useEffect(() => () => void dispatch(fieldHovered(null)), [dispatch]);

  const place = (e: React.PointerEvent) => {
    const box = cloud.current!.getBoundingClientRect();
    const [x, y] = [
      ((e.clientX - box.left) * SIZE) / box.width - SIZE / 2,
      SIZE / 2 - ((e.clientY - box.top) * SIZE) / box.height,
    ];
    return {
      C: (Math.hypot(x, y) / R) * FIELD_REACH,
      hDeg: (Math.atan2(y, x) * 180) / Math.PI,
      a: (x / R) * FIELD_REACH,
      b: (y / R) * FIELD_REACH,
    };
  };
  const point = (e: React.PointerEvent) => {
    const { a, b, C, hDeg } = place(e);
    if (grip && key) {
      const next = moved(key, grip, { C, hDeg });
      hold(next);
      onDrag(next);
    } else
      dispatch(
        fieldHovered(C <= FIELD_REACH ? { a: Math.round(a * 1000) / 1000, b: Math.round(b * 1000) / 1000 } : null),
      );
  };
  const dot = probe && at(Math.hypot(probe.a, probe.b), (Math.atan2(probe.b, probe.a) * 180) / Math.PI);
  return (
    <div style={{ position: 'relative', width: SIZE, height: SIZE, margin: '8px auto' }}>
      <canvas ref={cloud} width={SIZE} height={SIZE} style={{ position: 'absolute' }} />
      <svg
        width={SIZE}
        height={SIZE}
        style={{ position: 'absolute', touchAction: 'none' }}
        role="img"
        aria-label="Hue and chroma of the frame and of the key"
        onPointerMove={point}
        onPointerLeave={() => dispatch(fieldHovered(null))}
        onPointerUp={(e) => {
          if (grip && key) onSave(grip.startsWith('chroma') ? 'chroma' : 'hue', moved(key, grip, place(e)));
          setGrip(undefined);
          letGo();
        }}
      >
        {[0.08, 0.16, 0.24, 0.32].map((C) => (
          <circle key={C} cx={SIZE / 2} cy={SIZE / 2} r={(C / FIELD_REACH) * R} fill="none" stroke="var(--line)" />
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
              e.currentTarget.ownerSVGElement!.setPointerCapture(e.pointerId);
              dispatch(fieldHovered(null));
              setGrip(g);
            }}
          />
        )}
        {dot && <circle cx={dot[0]} cy={dot[1]} r={6} fill="none" stroke="#fff" strokeWidth={2} data-probe-mark />}
      </svg>
    </div>
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
        stroke="#fff"
        strokeDasharray="4 3"
      />
      <path d={sector(c0, c1, h0, h1)} fill="rgba(255,255,255,0.06)" stroke="#fff" strokeWidth={1.6} />
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
