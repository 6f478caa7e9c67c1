// What is drawn over the picture and is not in hand: a list, drawn in order.
import type { Note, PathPoint } from '@mellow/contract';
import type { StrokeHere } from '../commands/strokes.ts';
import { drawSilent, drawStroke } from './tools/scribbleTool.ts';
import { drawHandle, strokeTwice, tracePath, type ToScreen } from './tools/tool.ts';

/** How an overlay meets the screen. `scale`: screen pixels a picture pixel takes. `ghosted`: outlines only, faint. */
interface Over {
  context: CanvasRenderingContext2D;
  to: ToScreen;
  scale: number;
  ghosted: boolean;
}
export type Overlay = (over: Over) => void;

/** A picked place; full-resolution picture pixels. */
export interface Dot {
  x: number;
  y: number;
  sign: 'add' | 'remove';
}
/** A path that is not in hand: a tracked region, a hold-out, the frame before. */
export interface Outline {
  points: readonly PathPoint[];
  look: 'plain' | 'dashed' | 'faint';
}

export type StrokeLooks = Pick<StrokeHere, 'stroke' | 'holds'>;
/** Strokes; of one that does not hold as a whole a thin line, and as much of it as does. */
export const strokesOverlay =
  (strokes: readonly StrokeLooks[]): Overlay =>
  ({ context, to, scale, ghosted }) => {
    for (const { stroke, holds } of strokes) {
      if (holds) drawSilent(context, stroke.points, to, ghosted);
      for (const points of holds ?? [stroke.points]) drawStroke(context, { ...stroke, points }, to, scale, ghosted);
    }
  };

export const outlinesOverlay =
  (outlines: readonly Outline[]): Overlay =>
  ({ context, to, ghosted }) => {
    for (const { points, look } of outlines) {
      context.globalAlpha = look === 'faint' || ghosted ? 0.4 : 1;
      tracePath(context, points, to);
      strokeTwice(context, look !== 'plain');
      context.globalAlpha = 1;
    }
  };

/** Dots of picks, + or −. */
export const dotsOverlay =
  (dots: readonly Dot[]): Overlay =>
  ({ context, to, ghosted }) => {
    context.globalAlpha = ghosted ? 0.35 : 1;
    for (const dot of dots) {
      const [x, y] = to(dot.x, dot.y);
      drawHandle(context, [x, y], 'round');
      context.fillStyle = '#000000';
      context.fillRect(x - 2, y - 0.5, 4, 1);
      if (dot.sign === 'add') context.fillRect(x - 0.5, y - 2, 1, 4);
    }
    context.globalAlpha = 1;
  };

/** Pins and lines of notes, in a picture of so many pixels. */
export const notesOverlay =
  (notes: readonly Pick<Note, 'spot' | 'drawing'>[], width: number, height: number): Overlay =>
  ({ context, to }) => {
    for (const { spot, drawing } of notes) {
      for (const line of drawing) {
        context.beginPath();
        for (const [x, y] of line) context.lineTo(...to(x * width, y * height));
        strokeTwice(context, false);
      }
      if (spot) drawHandle(context, to(spot[0] * width, spot[1] * height), 'square');
    }
  };
