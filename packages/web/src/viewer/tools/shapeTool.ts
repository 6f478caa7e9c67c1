import type { Geometry, PathPoint } from '@mellow/contract';
import { pathOf } from '@mellow/core';
import { drawHandle, strokeTwice, tracePath, type At, type GeometryEvent, type ViewerTool } from './tool.ts';

type Grip = { kind: 'move' } | { kind: 'size'; sx: number; sy: number } | { kind: 'turn' } | { kind: 'point'; index: number; part: 'point' | 'in' | 'out' };
interface Handle {
  x: number;
  y: number;
  grip: Grip;
  round?: boolean;
}
const CORNERS: [number, number][] = [[-1, -1], [0, -1], [1, -1], [1, 0], [1, 1], [0, 1], [-1, 1], [-1, 0]];

/** A point of a box given by its place in the box (−1..1 either way). */
function boxPoint(g: Exclude<Geometry, { form: 'spline' }>, u: number, v: number): [number, number] {
  const [cos, sin] = [Math.cos((g.turnDeg * Math.PI) / 180), Math.sin((g.turnDeg * Math.PI) / 180)];
  const [x, y] = [(u * g.width) / 2, (v * g.height) / 2];
  return [g.cx + x * cos - y * sin, g.cy + x * sin + y * cos];
}
export function handlesOf(g: Geometry, px: number): Handle[] {
  if (g.form === 'spline')
    return g.points.flatMap((p, index): Handle[] => [
      ...(p.outX || p.outY ? [{ x: p.x + p.outX, y: p.y + p.outY, round: true, grip: { kind: 'point', index, part: 'out' } } as Handle] : []),
      ...(p.inX || p.inY ? [{ x: p.x + p.inX, y: p.y + p.inY, round: true, grip: { kind: 'point', index, part: 'in' } } as Handle] : []),
      { x: p.x, y: p.y, grip: { kind: 'point', index, part: 'point' } },
    ]);
  const sizes = CORNERS.map(([sx, sy]): Handle => ({ x: boxPoint(g, sx, sy)[0], y: boxPoint(g, sx, sy)[1], grip: { kind: 'size', sx, sy } }));
  const [tx, ty] = boxPoint(g, 0, -1 - (44 * px) / Math.max(g.height, 1));
  return [...sizes, { x: tx, y: ty, round: true, grip: { kind: 'turn' } }];
}
/** Is a point inside the (flattened) outline? Even-odd rule. */
function inside(points: readonly PathPoint[], x: number, y: number): boolean {
  let odd = false;
  points.forEach((p, i) => {
    const q = points[(i + points.length - 1) % points.length]!;
    if (p.y > y !== q.y > y && x < ((q.x - p.x) * (y - p.y)) / (q.y - p.y) + p.x) odd = !odd;
  });
  return odd;
}

/** The geometry after a grip has been dragged from one place to another. Exported for its test. */
export function dragged(start: Geometry, grip: Grip, from: At, to: At): Geometry {
  const [dx, dy] = [to.x - from.x, to.y - from.y];
  if (start.form === 'spline') {
    const points = start.points.map((p, i) => {
      if (grip.kind === 'move') return { ...p, x: p.x + dx, y: p.y + dy };
      if (grip.kind !== 'point' || grip.index !== i) return p;
      if (grip.part === 'point') return { ...p, x: p.x + dx, y: p.y + dy };
      const [hx, hy] = [to.x - p.x, to.y - p.y];
      // the opposite handle follows, so the curve stays smooth; Shift lets it stay
      if (grip.part === 'out') return { ...p, outX: hx, outY: hy, ...(!to.shift && { inX: -hx, inY: -hy }) };
      return { ...p, inX: hx, inY: hy, ...(!to.shift && { outX: -hx, outY: -hy }) };
    });
    return { ...start, points };
  }
  if (grip.kind === 'move') return { ...start, cx: start.cx + dx, cy: start.cy + dy };
  if (grip.kind === 'turn') {
    const turnDeg = (Math.atan2(to.y - start.cy, to.x - start.cx) * 180) / Math.PI + 90;
    return { ...start, turnDeg: to.shift ? Math.round(turnDeg / 15) * 15 : Math.round(turnDeg * 10) / 10 };
  }
  if (grip.kind !== 'size') return start;
  // the opposite side or corner stays where it is
  const [cos, sin] = [Math.cos((start.turnDeg * Math.PI) / 180), Math.sin((start.turnDeg * Math.PI) / 180)];
  const [u, v] = [dx * cos + dy * sin, -dx * sin + dy * cos];
  const width = Math.max(start.width + grip.sx * u, 1);
  const height = Math.max(start.height + grip.sy * v, 1);
  const [ox, oy] = [(grip.sx * (width - start.width)) / 2, (grip.sy * (height - start.height)) / 2];
  return { ...start, width, height, cx: start.cx + ox * cos - oy * sin, cy: start.cy + ox * sin + oy * cos };
}

/** Moves, sizes and turns the shape in hand by its handles. */
export class ShapeTool implements ViewerTool {
  cursor = 'default';
  #geometry: Geometry;
  readonly #changed: GeometryEvent;
  #px = 1;
  #held: { grip: Grip; from: At; start: Geometry } | undefined;
  constructor(geometry: Geometry, changed: GeometryEvent) {
    this.#geometry = geometry;
    this.#changed = changed;
  }
  #gripAt(at: At): Grip | undefined {
    const hit = handlesOf(this.#geometry, at.px).find((h) => Math.hypot(h.x - at.x, h.y - at.y) < 9 * at.px);
    if (hit) return hit.grip;
    return inside(pathOf(this.#geometry), at.x, at.y) ? { kind: 'move' } : undefined;
  }
  down(at: At) {
    const grip = this.#gripAt(at);
    if (grip) this.#held = { grip, from: at, start: this.#geometry };
  }
  move(at: At) {
    this.#px = at.px;
    const grip = this.#held?.grip ?? this.#gripAt(at);
    this.cursor = !grip ? 'default' : grip.kind === 'move' ? 'move' : 'pointer';
    if (!this.#held) return;
    this.#geometry = dragged(this.#held.start, this.#held.grip, this.#held.from, at);
    this.#changed(this.#geometry, 'drag');
  }
  up() {
    if (this.#held && this.#held.start !== this.#geometry) this.#changed(this.#geometry, 'done');
    this.#held = undefined;
  }
  /** Takes over a geometry changed elsewhere (typed, undone), unless the hand is on it. */
  sync(geometry: Geometry) {
    if (!this.#held) this.#geometry = geometry;
  }
  draw(context: CanvasRenderingContext2D, to: (x: number, y: number) => [number, number]) {
    const path = pathOf(this.#geometry);
    tracePath(context, path, to);
    strokeTwice(context);
    if (this.#geometry.form === 'spline')
      for (const p of this.#geometry.points)
        for (const [hx, hy] of [[p.inX, p.inY], [p.outX, p.outY]] as const) {
          if (!hx && !hy) continue;
          context.beginPath();
          context.moveTo(...to(p.x, p.y));
          context.lineTo(...to(p.x + hx, p.y + hy));
          context.lineWidth = 1;
          context.strokeStyle = 'rgba(255,255,255,0.7)';
          context.stroke();
        }
    for (const h of handlesOf(this.#geometry, this.#px)) drawHandle(context, to(h.x, h.y), h.round);
  }
}
