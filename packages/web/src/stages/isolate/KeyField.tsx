import { Button, InputNumber, Switch } from 'antd';
import { useEffect, useRef, useState } from 'react';
import type { KeyLayer } from '@mellow/contract';
import type { RangeKey, Window } from '@mellow/core';
import { frameClient } from '../../engine/frameClient.ts';
import { FIELD_REACH, type DensityAnswer, type FrameRef } from '../../engine/frameProtocol.ts';
import { moved, type KeyGrip } from './keyGrips.ts';

const SIZE = 300;
const R = SIZE / 2 - 8;
const at = (C: number, hDeg: number): [number, number] => [SIZE / 2 + (C / FIELD_REACH) * R * Math.cos((hDeg * Math.PI) / 180), SIZE / 2 - (C / FIELD_REACH) * R * Math.sin((hDeg * Math.PI) / 180)];

/** Outline of a hue and chroma window on the map. */
function sector(c0: number, c1: number, h0: number, h1: number): string {
  const arc = (C: number, from: number, to: number) => Array.from({ length: 25 }, (_, i) => at(C, from + ((to - from) * i) / 24).map((v) => v.toFixed(1)).join(' '));
  return `M${[...arc(c1, h0, h1), ...arc(Math.max(c0, 0), h1, h0)].join('L')}Z`;
}

interface Props {
  layer: KeyLayer;
  frame: FrameRef;
  ready: boolean;
  onDrag: (key: RangeKey) => void;
  onSave: (label: string, key: RangeKey) => void;
  onSolve: () => void;
}

/** The range key as a map: hue round, chroma outward, the frame's own pixels as a cloud; core solid, margin dashed. */
export function KeyField({ layer, frame, ready, onDrag, onSave, onSolve }: Props) {
  const cloud = useRef<HTMLCanvasElement>(null);
  const [density, setDensity] = useState<DensityAnswer>();
  const [grip, setGrip] = useState<KeyGrip>();
  const { key } = layer;
  useEffect(() => {
    if (!ready) return;
    let wanted = true;
    void frameClient().askLead({ kind: 'density', frame: { url: frame.url, encoding: frame.encoding, fullWidth: frame.fullWidth } }).then((d) => wanted && setDensity(d), () => undefined);
    return () => void (wanted = false);
  }, [frame.url, frame.encoding, frame.fullWidth, ready]);
  useEffect(() => {
    if (!density) return;
    const small = document.createElement('canvas');
    Object.assign(small, { width: density.size, height: density.size });
    small.getContext('2d')!.putImageData(new ImageData(density.rgba, density.size, density.size), 0, 0);
    const g = cloud.current!.getContext('2d')!;
    g.clearRect(0, 0, SIZE, SIZE);
    g.drawImage(small, 8, 8, 2 * R, 2 * R);
  }, [density]);

  if (!key) return <div className="quiet">Pick the colour of the piece in the picture: a click, or a dragged rectangle. The key field then shows what the key takes.</div>;
  const { hue, chroma } = key;
  const [h0, h1] = hue.on ? [hue.lo, hue.hi] : [0, 360];
  const [c0, c1] = chroma.on ? [chroma.lo, Math.min(chroma.hi, FIELD_REACH)] : [0, FIELD_REACH];
  const middle = (h0 + h1) / 2;
  const grips: { grip: KeyGrip; place: [number, number] }[] = [
    ...(hue.on ? [{ grip: 'hueLo' as const, place: at((c0 + c1) / 2, h0) }, { grip: 'hueHi' as const, place: at((c0 + c1) / 2, h1) }, { grip: 'softLo' as const, place: at((c0 + c1) / 2, h0 - hue.softLo) }, { grip: 'softHi' as const, place: at((c0 + c1) / 2, h1 + hue.softHi) }] : []),
    ...(chroma.on ? [{ grip: 'chromaLo' as const, place: at(c0, middle) }, { grip: 'chromaHi' as const, place: at(c1, middle) }] : []),
  ];
  const place = (e: React.PointerEvent) => {
    const box = cloud.current!.getBoundingClientRect();
    const [x, y] = [((e.clientX - box.left) * SIZE) / box.width - SIZE / 2, SIZE / 2 - ((e.clientY - box.top) * SIZE) / box.height];
    return { C: (Math.hypot(x, y) / R) * FIELD_REACH, hDeg: (Math.atan2(y, x) * 180) / Math.PI };
  };
  return (
    <section>
      <h2>Key field <span style={{ flex: 1 }} /><Button size="small" disabled={layer.picks.length === 0} onClick={onSolve}>Solve again</Button></h2>
      <div style={{ position: 'relative', width: SIZE, height: SIZE, margin: '8px auto' }}>
        <canvas ref={cloud} width={SIZE} height={SIZE} style={{ position: 'absolute' }} />
        <svg
          width={SIZE} height={SIZE} style={{ position: 'absolute', touchAction: 'none' }} role="img" aria-label="Hue and chroma of the frame and of the key"
          onPointerMove={(e) => grip && onDrag(moved(key, grip, place(e)))}
          onPointerUp={(e) => { if (grip) onSave(`${layer.name}: ${grip.startsWith('chroma') ? 'chroma' : 'hue'}`, moved(key, grip, place(e))); setGrip(undefined); }}
        >
          {[0.08, 0.16, 0.24, 0.32].map((C) => <circle key={C} cx={SIZE / 2} cy={SIZE / 2} r={(C / FIELD_REACH) * R} fill="none" stroke="var(--line)" />)}
          {[0, 60, 120, 180, 240, 300].map((h) => <text key={h} x={at(FIELD_REACH * 0.95, h)[0]} y={at(FIELD_REACH * 0.95, h)[1] + 4} textAnchor="middle" fontSize={10} fill="var(--quiet)">{h}°</text>)}
          <path d={sector(c0 - chroma.softLo, Math.min(c1 + chroma.softHi, FIELD_REACH), h0 - (hue.on ? hue.softLo : 0), h1 + (hue.on ? hue.softHi : 0))} fill="none" stroke="#fff" strokeDasharray="4 3" />
          <path d={sector(c0, c1, h0, h1)} fill="rgba(255,255,255,0.06)" stroke="#fff" strokeWidth={1.6} />
          {grips.map((g) => <circle key={g.grip} aria-label={g.grip} cx={g.place[0]} cy={g.place[1]} r={g.grip.startsWith('soft') ? 4 : 6} fill={g.grip.startsWith('soft') ? 'var(--panel)' : '#fff'} stroke={g.grip.startsWith('soft') ? '#fff' : '#000'} style={{ cursor: 'pointer' }} onPointerDown={(e) => { e.currentTarget.ownerSVGElement!.setPointerCapture(e.pointerId); setGrip(g.grip); }} />)}
        </svg>
      </div>
      {density && <LightnessStrip density={density} window={key.lightness} />}
      <Numbers layer={layer} value={key} onSave={onSave} />
    </section>
  );
}

function LightnessStrip({ density, window: w }: { density: DensityAnswer; window: Window }) {
  const top = Math.max(...density.lightness, 1);
  const x = (L: number) => Math.min(Math.max(L, 0), 1) * 300;
  return (
    <svg width={300} height={40} style={{ display: 'block', margin: '0 auto 8px' }} role="img" aria-label="Lightness of the frame and of the key">
      {density.lightness.map((n, i) => <rect key={i} x={(i * 300) / 64} width={300 / 64} y={34 - 30 * Math.sqrt(n / top)} height={30 * Math.sqrt(n / top)} fill={`rgb(${Array(3).fill(Math.round(40 + (i / 63) * 200)).join()})`} />)}
      {w.on && <><rect x={x(w.lo - w.softLo)} y={1} width={x(w.hi + w.softHi) - x(w.lo - w.softLo)} height={34} fill="none" stroke="#fff" strokeDasharray="4 3" /><rect x={x(w.lo)} y={1} width={x(w.hi) - x(w.lo)} height={34} fill="none" stroke="#fff" strokeWidth={1.6} /></>}
    </svg>
  );
}

const ROWS = [
  { name: 'hue', label: 'Hue °', max: 720, step: 1, digits: 1 },
  { name: 'chroma', label: 'Chroma', max: 0.5, step: 0.005, digits: 3 },
  { name: 'lightness', label: 'Lightness', max: 1.5, step: 0.01, digits: 3 },
] as const;
const EDGES = [['softLo', 'margin'], ['lo', 'from'], ['hi', 'to'], ['softHi', 'margin']] as const;

function Numbers({ layer, value, onSave }: { layer: KeyLayer; value: RangeKey; onSave: Props['onSave'] }) {
  return (
    <div className="numbers4" role="group" aria-label="Numbers of the key">
      <span />{EDGES.map(([edge, label]) => <span key={edge} className="quiet">{label}</span>)}
      {ROWS.map(({ name, label, max, step, digits }) => {
        const w = value[name];
        const put = (next: Partial<Window>) => {
          const merged = { ...w, ...next };
          onSave(`${layer.name}: ${name}`, { ...value, [name]: { ...merged, hi: Math.max(merged.hi, merged.lo) } });
        };
        return [
          <span key={name} className="row"><Switch size="small" aria-label={`${name} window on`} checked={w.on} onChange={(on) => put({ on })} />{label}</span>,
          ...EDGES.map(([edge]) => <InputNumber key={name + edge} aria-label={`${name} ${edge}`} size="small" controls={false} disabled={!w.on} min={0} max={max} step={step} precision={digits} value={w[edge]} onChange={(v) => v !== null && put({ [edge]: v })} changeOnWheel={false} />),
        ];
      })}
    </div>
  );
}
