import { useEffect, useRef, type CSSProperties, type PointerEvent, type ReactNode } from 'react';
import type { Oklab } from '@mellow/core';
import type { PolarMap } from './polarMap.ts';

type Plane = Pick<Oklab, 'a' | 'b'>;
interface Props {
  label: string;
  map: PolarMap;
  /** Paints what lies under everything. The same function for as long as it paints the same. */
  paint: (context: CanvasRenderingContext2D) => void;
  /** The pointer is over a colour, or, with a grip held, has pulled it there. */
  onMove: (to: Plane) => void;
  onUp: (to: Plane) => void;
  onLeave?: () => void;
  style?: CSSProperties;
  children: ReactNode;
}
/** A round field of colours that can be pointed at, with things on it (SVG) that can be pulled. */
export function PolarField({ label, map, paint, onMove, onUp, onLeave, style, children }: Props) {
  const { size } = map;
  const under = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const context = under.current!.getContext('2d')!;
    context.clearRect(0, 0, size, size);
    paint(context);
  }, [paint, size]);
  const at = (e: PointerEvent): Plane => {
    const box = under.current!.getBoundingClientRect();
    const k = size / box.width;
    return map.colourAt((e.clientX - box.left) * k, (e.clientY - box.top) * k);
  };
  return (
    <div style={{ position: 'relative', width: size, height: size, ...style }}>
      <canvas ref={under} width={size} height={size} style={{ position: 'absolute' }} />
      <svg
        width={size}
        height={size}
        style={{ position: 'absolute', touchAction: 'none' }}
        role="img"
        aria-label={label}
        onPointerMove={(e) => onMove(at(e))}
        onPointerUp={(e) => onUp(at(e))}
        onPointerLeave={onLeave}
      >
        {children}
      </svg>
    </div>
  );
}
/** The pointer stays with what it has pressed on, also outside the field. */
export const keepsPointer = (e: PointerEvent<SVGElement>): void =>
  e.currentTarget.ownerSVGElement!.setPointerCapture(e.pointerId);

/** A ring of equal chroma. */
export function Ring({ map, share }: { map: PolarMap; share: number }) {
  const middle = map.size / 2;
  return <circle cx={middle} cy={middle} r={map.radius * share} fill="none" stroke="var(--line)" />;
}
