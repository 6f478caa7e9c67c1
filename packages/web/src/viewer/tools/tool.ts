import type { PathPoint } from '@mellow/contract';
import type { Feather, Geometry } from '@mellow/core';

/** A place in full-resolution picture pixels; `px` is how many of them a screen pixel covers. */
export interface At {
  x: number;
  y: number;
  px: number;
  shift: boolean;
  alt: boolean;
  /** How hard a pen is pressed, 0..1; 1 of what has no pressure. */
  pressure: number;
}
export type ToolKey = 'Enter' | 'Escape' | 'Delete';
export type ToScreen = (x: number, y: number) => [number, number];
/** One way of working with the pointer on the picture. Lives for as long as it is chosen. */
export interface ViewerTool {
  cursor: string;
  down(at: At): void;
  move(at: At): void;
  up(at: At): void;
  double?(at: At): void;
  /** The wheel was turned by so much, away from the hand under 0. True when it was of use. */
  wheel?(turned: number): boolean;
  /** The pointer is no longer over the picture. */
  leave?(): void;
  /** Enter closes, Escape gives up, Delete removes what is chosen. True when it was of use. */
  key?(key: ToolKey): boolean;
  /** Arrow keys, in picture pixels. True when there is something to nudge. */
  nudge?(dx: number, dy: number): boolean;
  /** Draws what the tool shows, in screen pixels. `ghosted`: outlines only, faint. */
  draw(context: CanvasRenderingContext2D, to: ToScreen, ghosted: boolean): void;
}

/** A shape as the tools see it. */
export interface Shape {
  geometry: Geometry;
  feather: Feather;
}
export type ShapeEvent = (shape: Shape, phase: 'drag' | 'done', what: string) => void;

/** A dark line under a light one: seen on any picture without a hue of its own. */
export function strokeTwice(context: CanvasRenderingContext2D, dashed = false): void {
  context.setLineDash(dashed ? [5, 4] : []);
  context.lineWidth = 3;
  context.strokeStyle = 'rgba(0,0,0,0.6)';
  context.stroke();
  context.lineWidth = 1.4;
  context.strokeStyle = '#ffffff';
  context.stroke();
  context.setLineDash([]);
}
export type HandleLook = 'square' | 'round' | 'diamond' | 'solid';
export function drawHandle(
  context: CanvasRenderingContext2D,
  [x, y]: [number, number],
  look: HandleLook = 'square',
  isUnderPointer = false,
): void {
  const r = isUnderPointer ? 6 : 4;
  context.beginPath();
  if (look === 'round') context.arc(x, y, r, 0, 2 * Math.PI);
  else if (look === 'diamond') {
    context.moveTo(x, y - r - 1);
    context.lineTo(x + r + 1, y);
    context.lineTo(x, y + r + 1);
    context.lineTo(x - r - 1, y);
    context.closePath();
  } else context.rect(x - r, y - r, 2 * r, 2 * r);
  context.fillStyle = look === 'solid' ? '#000000' : '#ffffff';
  context.fill();
  context.lineWidth = look === 'solid' ? 2 : 1;
  context.strokeStyle = look === 'solid' ? '#ffffff' : '#000000';
  context.stroke();
}
export function tracePath(
  context: CanvasRenderingContext2D,
  points: readonly PathPoint[],
  to: ToScreen,
  close = true,
): void {
  context.beginPath();
  points.forEach((p, i) => {
    const q = points[(i + points.length - 1) % points.length]!;
    if (i === 0) context.moveTo(...to(p.x, p.y));
    else context.bezierCurveTo(...to(q.x + q.outX, q.y + q.outY), ...to(p.x + p.inX, p.y + p.inY), ...to(p.x, p.y));
  });
  const [last, first] = [points.at(-1), points[0]];
  if (close && last && first) {
    context.bezierCurveTo(
      ...to(last.x + last.outX, last.y + last.outY),
      ...to(first.x + first.inX, first.y + first.inY),
      ...to(first.x, first.y),
    );
    context.closePath();
  }
}
