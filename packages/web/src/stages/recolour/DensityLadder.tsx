import { useState } from 'react';

const HEIGHT = 250;
const REACH = 1.2;
/** One stop in optical density: log10 2. */
const STOP = Math.log10(2);
const y = (density: number) => HEIGHT / 2 + (density / REACH) * (HEIGHT / 2 - 8);

/** Optical density added, lighter above and darker below; rungs are stops. */
export function DensityLadder({
  density,
  onDrag,
  onSave,
}: {
  density: number;
  onDrag: (density: number) => void;
  onSave: (density: number) => void;
}) {
  const [held, setHeld] = useState(false);
  const at = (e: React.PointerEvent<SVGSVGElement>) => {
    const box = e.currentTarget.getBoundingClientRect();
    const value = ((e.clientY - box.top - HEIGHT / 2) / (HEIGHT / 2 - 8)) * REACH;
    return Math.round(Math.min(Math.max(value, -REACH), REACH) * 100) / 100;
  };
  return (
    <svg
      width={64}
      height={HEIGHT}
      style={{ touchAction: 'none' }}
      role="img"
      aria-label={`Density ladder: ${density.toFixed(2)} D`}
      onPointerDown={(e) => {
        e.currentTarget.setPointerCapture(e.pointerId);
        setHeld(true);
        onDrag(at(e));
      }}
      onPointerMove={(e) => held && onDrag(at(e))}
      onPointerUp={(e) => {
        if (held) onSave(at(e));
        setHeld(false);
      }}
    >
      <defs>
        <linearGradient id="ladder" x1="0" x2="0" y1="0" y2="1">
          <stop offset="0" stopColor="#e8e8e8" />
          <stop offset="1" stopColor="#101010" />
        </linearGradient>
      </defs>
      <rect x={8} y={8} width={14} height={HEIGHT - 16} rx={4} fill="url(#ladder)" />
      {[-3, -2, -1, 0, 1, 2, 3].map((stop) => (
        <g key={stop}>
          <line x1={24} x2={32} y1={y(stop * STOP)} y2={y(stop * STOP)} stroke="var(--quiet)" />
          <text x={35} y={y(stop * STOP) + 4} fontSize={12} fill="var(--quiet)">
            {stop === 0 ? '0' : `${stop > 0 ? '−' : '+'}${Math.abs(stop)} st`}
          </text>
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
