import { useState } from 'react';
import type { Window } from '@mellow/core';
import { useHeld } from '../../ui/useHeld.ts';

interface Props {
  label: string;
  /** Counts of the frame's pixels over 0..1, evenly spaced. */
  histogram: readonly number[] | undefined;
  window: Window;
  onDrag: (window: Window) => void;
  onSave: (window: Window) => void;
}
const [W, H] = [300, 38];
const LEAST = 0.004;
type Edge = 'lo' | 'hi' | 'softLo' | 'softHi';

/**
 * The window after one of its edges was pulled to `x`; the core keeps a least width, margins never go below 0. Exported
 * for its test.
 */
function edgeMoved(w: Window, edge: Edge, x: number): Window {
  switch (edge) {
    case 'lo':
      return { ...w, lo: Math.min(x, w.hi - LEAST) };
    case 'hi':
      return { ...w, hi: Math.max(x, w.lo + LEAST) };
    case 'softLo':
      return { ...w, softLo: Math.max(w.lo - x, 0) };
    case 'softHi':
      return { ...w, softHi: Math.max(x - w.hi, 0) };
  }
}

/**
 * One quantity from 0 to 1: how many of the frame's pixels have how much of it, and the key's core and margins on it,
 * draggable.
 */
export function WindowStrip({ label, histogram, window: own, onDrag, onSave }: Props) {
  const [held, setHeld] = useState<Edge>();
  const { shown: w, hold, letGo } = useHeld(own);
  const top = Math.max(...(histogram ?? []), 1);
  const x = (v: number) => Math.min(Math.max(v, 0), 1) * W;
  const valueAt = (e: React.PointerEvent<SVGSVGElement>) => {
    const box = e.currentTarget.getBoundingClientRect();
    return Math.min(Math.max((e.clientX - box.left) / box.width, 0), 1);
  };
  const edges: [Edge, number][] = [
    ['softLo', w.lo - w.softLo],
    ['softHi', w.hi + w.softHi],
    ['lo', w.lo],
    ['hi', w.hi],
  ];
  return (
    <svg
      width={W}
      height={H}
      style={{ display: 'block', margin: '0 auto 6px', touchAction: 'none', overflow: 'visible' }}
      role="img"
      aria-label={label}
      onPointerMove={(e) => {
        if (!held) return;
        const next = edgeMoved(w, held, valueAt(e));
        hold(next);
        onDrag(next);
      }}
      onPointerUp={(e) => {
        if (held) onSave(edgeMoved(w, held, valueAt(e)));
        setHeld(undefined);
        letGo();
      }}
    >
      {histogram?.map((n, i) => (
        <rect
          key={i}
          x={(i * W) / histogram.length}
          width={W / histogram.length}
          y={34 - 30 * Math.sqrt(n / top)}
          height={30 * Math.sqrt(n / top)}
          fill={`rgb(${Array(3)
            .fill(Math.round(40 + (i / 63) * 200))
            .join()})`}
        />
      ))}
      {w.on && (
        <>
          <rect
            x={x(w.lo - w.softLo)}
            y={1}
            width={Math.max(x(w.hi + w.softHi) - x(w.lo - w.softLo), 1)}
            height={34}
            fill="none"
            stroke="var(--text)"
            strokeDasharray="4 3"
          />
          <rect
            x={x(w.lo)}
            y={1}
            width={Math.max(x(w.hi) - x(w.lo), 1)}
            height={34}
            fill="none"
            stroke="var(--text)"
            strokeWidth={1.6}
          />
          {edges.map(([edge, v]) => (
            <rect
              key={edge}
              data-edge={edge}
              x={x(v) - 4}
              y={edge.startsWith('soft') ? 20 : 2}
              width={8}
              height={16}
              rx={3}
              fill={edge.startsWith('soft') ? 'var(--panel)' : '#fff'}
              stroke={edge.startsWith('soft') ? '#fff' : '#000'}
              style={{ cursor: 'ew-resize' }}
              onPointerDown={(e) => {
                e.currentTarget.ownerSVGElement!.setPointerCapture(e.pointerId);
                setHeld(edge);
              }}
            />
          ))}
        </>
      )}
    </svg>
  );
}
