import { useId, useState, type PointerEvent } from 'react';
import { useHeld } from './useHeld.ts';

interface Props {
  /** Optical density added: up is lighter, so less. */
  density: number;
  /** How far it goes either way, D. */
  reach: number;
  height: number;
  label: string;
  onDrag: (density: number) => void;
  onSave: (density: number) => void;
}
/** One stop in optical density: log10 2. */
const STOP = Math.log10(2);
/** Rungs nearer than this have no text, px. */
const LEAST_GAP = 20;

/** Optical density, lighter above and darker below; rungs are stops. */
export function Ladder({ density: own, reach, height, label, onDrag, onSave }: Props) {
  const [isHeld, setHeld] = useState(false);
  const { shown: density, hold, letGo } = useHeld(own);
  const gradient = useId();
  const half = height / 2 - 8;
  const y = (d: number) => height / 2 + (d / reach) * half;
  const at = (e: PointerEvent<SVGSVGElement>) => {
    const box = e.currentTarget.getBoundingClientRect();
    const value = ((e.clientY - box.top - height / 2) / half) * reach;
    return Math.round(Math.min(Math.max(value, -reach), reach) * 100) / 100;
  };
  const pull = (e: PointerEvent<SVGSVGElement>) => {
    hold(at(e));
    onDrag(at(e));
  };
  const most = Math.floor(reach / STOP);
  const rungs = Array.from({ length: 2 * most + 1 }, (_, i) => i - most);
  const hasText = (STOP / reach) * half >= LEAST_GAP;
  return (
    <svg
      width={hasText ? 64 : 34}
      height={height}
      style={{ touchAction: 'none' }}
      role="img"
      aria-label={`${label}: ${density.toFixed(2)} D`}
      onPointerDown={(e) => {
        e.currentTarget.setPointerCapture(e.pointerId);
        setHeld(true);
        pull(e);
      }}
      onPointerMove={(e) => isHeld && pull(e)}
      onPointerUp={(e) => {
        if (isHeld) onSave(at(e));
        setHeld(false);
        letGo();
      }}
    >
      <defs>
        <linearGradient id={gradient} x1="0" x2="0" y1="0" y2="1">
          <stop offset="0" stopColor="#e8e8e8" />
          <stop offset="1" stopColor="#101010" />
        </linearGradient>
      </defs>
      <rect x={8} y={8} width={14} height={height - 16} rx={4} fill={`url(#${gradient})`} />
      {rungs.map((stop) => (
        <g key={stop}>
          <line x1={24} x2={32} y1={y(stop * STOP)} y2={y(stop * STOP)} stroke="var(--quiet)" />
          {hasText && (
            <text x={35} y={y(stop * STOP) + 4} fontSize={12} fill="var(--quiet)">
              {stop === 0 ? '0' : `${stop > 0 ? '−' : '+'}${Math.abs(stop)} st`}
            </text>
          )}
        </g>
      ))}
      <rect
        x={3}
        y={y(density) - 4}
        width={24}
        height={8}
        rx={3}
        fill="#fff"
        stroke="#000"
        style={{ cursor: 'grab' }}
      />
    </svg>
  );
}
