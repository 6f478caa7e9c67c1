import { useState, type PointerEvent } from 'react';
import { useHeld } from './useHeld.ts';
import { hueStrip } from './hueStrip.ts';

interface Tint {
  a: number;
  b: number;
}
interface Props extends Tint {
  /** OKLab chroma at the rim. */
  reach: number;
  size: number;
  label: string;
  onDrag: (to: Tint) => void;
  onSave: (to: Tint) => void;
}
// hue goes round against the clock from the right, as in the key field and the swing; CSS goes with it from the top
const HUES = `conic-gradient(from 90deg, ${hueStrip(36).reverse().join(', ')})`;

/** What a grey is tinted to: OKLab's a to the right, b upward, neutral in the middle; a double click goes there. */
export function TintField({ a: ownA, b: ownB, reach, size, label, onDrag, onSave }: Props) {
  const [isHeld, setHeld] = useState(false);
  const { shown, hold, letGo } = useHeld({ a: ownA, b: ownB });
  const { a, b } = shown;
  const radius = size / 2 - 5;
  const at = (e: PointerEvent<SVGSVGElement>): Tint => {
    const box = e.currentTarget.getBoundingClientRect();
    const [x, y] = [e.clientX - box.left - size / 2, size / 2 - (e.clientY - box.top)];
    const k = Math.min(1, radius / Math.max(Math.hypot(x, y), 1e-6)) / radius;
    return { a: x * k * reach, b: y * k * reach };
  };
  const [x, y] = [size / 2 + (a / reach) * radius, size / 2 - (b / reach) * radius];
  return (
    <span className="tint-field" style={{ width: size, height: size }}>
      <i style={{ background: HUES, inset: 5 }} />
      <svg
        width={size}
        height={size}
        style={{ touchAction: 'none' }}
        role="img"
        aria-label={`${label}: a ${a.toFixed(3)}, b ${b.toFixed(3)}`}
        onPointerDown={(e) => {
          e.currentTarget.setPointerCapture(e.pointerId);
          setHeld(true);
        }}
        onPointerMove={(e) => {
          if (!isHeld) return;
          hold(at(e));
          onDrag(at(e));
        }}
        onPointerUp={(e) => {
          if (isHeld) onSave(at(e));
          setHeld(false);
          letGo();
        }}
        onDoubleClick={() => onSave({ a: 0, b: 0 })}
      >
        <circle cx={size / 2} cy={size / 2} r={radius} fill="none" stroke="var(--line)" />
        <circle cx={size / 2} cy={size / 2} r={1.5} fill="var(--text)" />
        <circle cx={x} cy={y} r={6} fill="#fff" stroke="#000" style={{ cursor: 'grab' }} />
      </svg>
    </span>
  );
}
