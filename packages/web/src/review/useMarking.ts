import { useState, type PointerEvent } from 'react';
import type { Note, Spot } from '@mellow/contract';

/** What is marked on the frame for the note that is being written. */
export type Marked = Pick<Note, 'spot' | 'drawing'>;
const NOTHING: Marked = { spot: null, drawing: [] };
/** A hand that moves less than this share of the picture's width has pointed, not drawn. */
const POINTED = 0.008;
/** Places closer than this to the last are left out of a line; what is kept of one, and of all. */
const STEP = 0.003;
const MOST_PLACES = 400;
const MOST_LINES = 40;

const spotOf = (e: PointerEvent): Spot => {
  const { left, top, width, height } = e.currentTarget.getBoundingClientRect();
  const within = (share: number) => Math.min(Math.max(share, 0), 1);
  return [within((e.clientX - left) / width), within((e.clientY - top) / height)];
};
const distance = ([x0, y0]: Spot, [x1, y1]: Spot): number => Math.hypot(x1 - x0, y1 - y0);

/** A place more on the line that is being drawn; the same lines where it is too near, or one is full. */
export function drawnOn({ spot, drawing }: Marked, place: Spot): Marked {
  const line = drawing.at(-1) ?? [];
  const last = line.at(-1);
  if (line.length >= MOST_PLACES || (last && distance(last, place) < STEP)) return { spot, drawing };
  return { spot, drawing: [...drawing.slice(0, -1), [...line, place]] };
}
/** When the hand is lifted: a line that has hardly moved is a pin where it began. */
export function lifted({ spot, drawing }: Marked): Marked {
  const line = drawing.at(-1);
  if (!line) return { spot, drawing };
  const [first, ...rest] = line;
  const isPointed = rest.every((place) => distance(first!, place) < POINTED);
  return isPointed ? { spot: first!, drawing: drawing.slice(0, -1) } : { spot, drawing };
}

/** Marks made by hand on the frame: a click pins, a drag draws. */
export function useMarking() {
  const [marked, setMarked] = useState<Marked>(NOTHING);
  const [isDown, setDown] = useState(false);
  return {
    marked,
    clear: () => setMarked(NOTHING),
    hand: {
      onPointerDown: (e: PointerEvent) => {
        if (e.button !== 0 || marked.drawing.length >= MOST_LINES) return;
        e.currentTarget.setPointerCapture(e.pointerId);
        const place = spotOf(e);
        setDown(true);
        setMarked({ ...marked, drawing: [...marked.drawing, [place]] });
      },
      onPointerMove: (e: PointerEvent) => {
        if (!isDown) return;
        const place = spotOf(e);
        setMarked((now) => drawnOn(now, place));
      },
      onPointerUp: () => {
        setDown(false);
        setMarked(lifted);
      },
    },
  };
}
