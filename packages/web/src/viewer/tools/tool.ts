import type { Geometry, PathPoint } from '@mellow/contract';

/** A place in full-resolution picture pixels; `px` is how many of them a screen pixel covers. */
export interface At {
  x: number;
  y: number;
  px: number;
  shift: boolean;
}
/** One way of working with the pointer on the picture. Lives for as long as it is chosen. */
export interface ViewerTool {
  cursor: string;
  down(at: At): void;
  move(at: At): void;
  up(at: At): void;
  /** Enter closes, Escape gives up. */
  key?(key: 'Enter' | 'Escape'): void;
  /** Draws what the tool shows, in screen pixels; `to` maps picture to screen. */
  draw(context: CanvasRenderingContext2D, to: (x: number, y: number) => [number, number]): void;
}

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
export function drawHandle(context: CanvasRenderingContext2D, [x, y]: [number, number], round = false): void {
  context.beginPath();
  if (round) context.arc(x, y, 4, 0, 2 * Math.PI);
  else context.rect(x - 4, y - 4, 8, 8);
  context.fillStyle = '#ffffff';
  context.fill();
  context.lineWidth = 1;
  context.strokeStyle = '#000000';
  context.stroke();
}
export function tracePath(context: CanvasRenderingContext2D, points: readonly PathPoint[], to: (x: number, y: number) => [number, number], close = true): void {
  context.beginPath();
  points.forEach((p, i) => {
    const q = points[(i + points.length - 1) % points.length]!;
    if (i === 0) context.moveTo(...to(p.x, p.y));
    else context.bezierCurveTo(...to(q.x + q.outX, q.y + q.outY), ...to(p.x + p.inX, p.y + p.inY), ...to(p.x, p.y));
  });
  const [last, first] = [points.at(-1), points[0]];
  if (close && last && first) {
    context.bezierCurveTo(...to(last.x + last.outX, last.y + last.outY), ...to(first.x + first.inX, first.y + first.inY), ...to(first.x, first.y));
    context.closePath();
  }
}
export type GeometryEvent = (geometry: Geometry, phase: 'drag' | 'done') => void;
