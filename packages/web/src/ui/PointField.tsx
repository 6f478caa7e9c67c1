import { useState, type KeyboardEvent, type PointerEvent, type ReactNode } from 'react';

export interface Spot {
  x: number;
  y: number;
}
interface FieldPoint extends Spot {
  name: string;
  /** What a screen reader says of it. */
  text: string;
}
interface Props {
  label: string;
  width: number;
  height: number;
  /** 0..1 both ways, y upwards. */
  points: readonly FieldPoint[];
  /** Can points be pulled sideways too? */
  isFree: boolean;
  chosen: string | undefined;
  onChoose: (name: string) => void;
  onDrag: (name: string, to: Spot) => void;
  onSave: (name: string, to: Spot) => void;
  onReset: (name: string) => void;
  children: ReactNode;
}
/** How far inside its edges the field begins, so that points at its ends can be held. */
export const MARGIN = 8;
const unit = (v: number) => Math.min(Math.max(v, 0), 1);
const NUDGES: Record<string, Spot> = {
  ArrowUp: { x: 0, y: 1 },
  ArrowDown: { x: 0, y: -1 },
  ArrowLeft: { x: -1, y: 0 },
  ArrowRight: { x: 1, y: 0 },
};
const NUDGE = 0.005;

/**
 * A field with points that are dragged, nudged with the arrow keys (Shift: ten times as far) and reset with a double
 * click; what they shape is drawn behind them.
 */
export function PointField(props: Props) {
  const { label, width, height, points, isFree, chosen, onChoose, onDrag, onSave, onReset, children } = props;
  const [held, setHeld] = useState<string>();
  const [wide, tall] = [width - 2 * MARGIN, height - 2 * MARGIN];
  const spotOf = (e: PointerEvent<SVGSVGElement>, name: string): Spot => {
    const box = e.currentTarget.getBoundingClientRect();
    const own = points.find((p) => p.name === name)!;
    const x = unit(((e.clientX - box.left) * (width / box.width) - MARGIN) / wide);
    const y = unit(1 - ((e.clientY - box.top) * (height / box.height) - MARGIN) / tall);
    return { x: isFree ? x : own.x, y };
  };
  const nudge = (e: KeyboardEvent, { name, x, y }: FieldPoint) => {
    const by = NUDGES[e.key];
    if (!by || (by.x !== 0 && !isFree)) return;
    e.preventDefault();
    const k = NUDGE * (e.shiftKey ? 10 : 1);
    onSave(name, { x: unit(x + k * by.x), y: unit(y + k * by.y) });
  };
  return (
    <svg
      width={width}
      height={height}
      style={{ display: 'block', margin: '0 auto', touchAction: 'none' }}
      role="group"
      aria-label={label}
      onPointerMove={(e) => held && onDrag(held, spotOf(e, held))}
      onPointerUp={(e) => {
        if (held) onSave(held, spotOf(e, held));
        setHeld(undefined);
      }}
    >
      {children}
      {points.map((point) => (
        <circle
          key={point.name}
          data-point={point.name}
          role="slider"
          tabIndex={0}
          aria-label={`${label}: ${point.name}`}
          aria-valuetext={point.text}
          aria-valuenow={point.y}
          cx={MARGIN + point.x * wide}
          cy={MARGIN + (1 - point.y) * tall}
          r={point.name === chosen ? 6 : 5}
          fill={point.name === chosen ? '#fff' : 'var(--panel)'}
          stroke={point.name === chosen ? '#000' : '#fff'}
          strokeWidth={1.5}
          style={{ cursor: 'grab' }}
          onFocus={() => onChoose(point.name)}
          onKeyDown={(e) => nudge(e, point)}
          onDoubleClick={() => onReset(point.name)}
          onPointerDown={(e) => {
            e.currentTarget.ownerSVGElement!.setPointerCapture(e.pointerId);
            onChoose(point.name);
            setHeld(point.name);
          }}
        />
      ))}
    </svg>
  );
}

/** A path through places of a field, for what is drawn behind its points. */
export const pathIn = (width: number, height: number, spots: readonly Spot[]): string =>
  spots
    .map(({ x, y }) => [MARGIN + x * (width - 2 * MARGIN), MARGIN + (1 - y) * (height - 2 * MARGIN)] as const)
    .map(([x, y], i) => `${i === 0 ? 'M' : 'L'}${x.toFixed(1)} ${y.toFixed(1)}`)
    .join('');
