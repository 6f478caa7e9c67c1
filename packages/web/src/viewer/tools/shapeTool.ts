import {
  moveBy,
  movedGeometry,
  nearestOnPath,
  pathOf,
  toggledCorner,
  withoutPoints,
  withPointAdded,
} from '@mellow/core';
import { dragged, nameOf } from './shapeDrag.ts';
import { boxPoint, featherOutline, handlesOf, inside, transformBox, type Grip } from './shapeHandles.ts';
import {
  drawHandle,
  strokeTwice,
  tracePath,
  type At,
  type Shape,
  type ShapeEvent,
  type ToolKey,
  type ToScreen,
  type ViewerTool,
} from './tool.ts';

/** How near, in screen pixels, the pointer must be to hold a handle or meet the path. */
const HANDLE_REACH = 9;
const PATH_REACH = 6;

/**
 * Moves, bends, scales, turns, shears and feathers the shape in hand. A click on the path adds a point, a double click
 * on a point changes it between corner and smooth, a drag over empty picture chooses points.
 */
export class ShapeTool implements ViewerTool {
  cursor = 'default';
  #shape: Shape;
  readonly #changed: ShapeEvent;
  #chosen: ReadonlySet<number> = new Set();
  #px = 1;
  /** What the pointer is over, or holds. */
  #over: Grip | undefined;
  #held: { grip: Grip; from: At; start: Shape } | undefined;
  #marquee: { from: At; to: At; before: ReadonlySet<number> } | undefined;
  constructor(shape: Shape, changed: ShapeEvent) {
    this.#shape = shape;
    this.#changed = changed;
  }
  #gripAt(at: At): Grip | undefined {
    // the nearest handle within reach, so that those that stand close together can all be held
    let [hit, nearest]: [Grip | undefined, number] = [undefined, HANDLE_REACH * at.px];
    for (const h of handlesOf(this.#shape, this.#chosen, at.px)) {
      const distance = Math.hypot(h.x - at.x, h.y - at.y);
      if (distance < nearest) [hit, nearest] = [h.grip, distance];
    }
    if (hit) return hit;
    const { geometry } = this.#shape;
    if (geometry.form === 'gradient') {
      const { x0, y0, x1, y1 } = geometry;
      const t = ((at.x - x0) * (x1 - x0) + (at.y - y0) * (y1 - y0)) / ((x1 - x0) ** 2 + (y1 - y0) ** 2 || 1);
      const near = Math.hypot(x0 + t * (x1 - x0) - at.x, y0 + t * (y1 - y0) - at.y) < PATH_REACH * at.px;
      return near && t > 0 && t < 1 ? { kind: 'move' } : undefined;
    }
    return inside(pathOf(geometry), at.x, at.y) ? { kind: 'move' } : undefined;
  }
  #segmentAt(at: At): { index: number; t: number } | undefined {
    const { geometry } = this.#shape;
    if (geometry.form !== 'spline') return undefined;
    const near = nearestOnPath(geometry.points, at.x, at.y);
    return near && near.distance < PATH_REACH * at.px ? near : undefined;
  }
  down(at: At) {
    this.#px = at.px;
    const grip = this.#gripAt(at);
    const overPath = grip?.kind !== 'point' && this.#segmentAt(at);
    if (grip?.kind === 'point' && grip.part === 'point') this.#choose(grip.index, at.shift);
    if (grip || overPath) this.#held = { grip: grip ?? { kind: 'move' }, from: at, start: this.#shape };
    else this.#marquee = { from: at, to: at, before: at.shift ? this.#chosen : new Set() };
  }
  #choose(index: number, more: boolean) {
    if (!more) {
      if (!this.#chosen.has(index)) this.#chosen = new Set([index]);
      return;
    }
    const next = new Set(this.#chosen);
    if (!next.delete(index)) next.add(index);
    this.#chosen = next;
  }
  move(at: At) {
    this.#px = at.px;
    if (this.#marquee) {
      this.#marquee.to = at;
      this.#chosen = new Set([...this.#marquee.before, ...this.#pointsIn(this.#marquee.from, at)]);
      return;
    }
    const grip = this.#held?.grip ?? this.#gripAt(at);
    this.#over = grip;
    this.cursor = this.#cursorOver(grip, at);
    if (!this.#held) return;
    this.#shape = dragged(this.#held.start, this.#held.grip, this.#held.from, at, this.#chosen);
    this.#changed(this.#shape, 'drag', '');
  }
  #cursorOver(grip: Grip | undefined, at: At): string {
    if (grip && grip.kind !== 'move') return 'pointer';
    if (this.#segmentAt(at)) return 'copy';
    return grip ? 'move' : 'crosshair';
  }
  #pointsIn(a: At, b: At): number[] {
    const { geometry } = this.#shape;
    if (geometry.form !== 'spline') return [];
    const [x0, x1, y0, y1] = [Math.min(a.x, b.x), Math.max(a.x, b.x), Math.min(a.y, b.y), Math.max(a.y, b.y)];
    return geometry.points.flatMap((p, i) => (p.x >= x0 && p.x <= x1 && p.y >= y0 && p.y <= y1 ? [i] : []));
  }
  up(at: At) {
    const held = this.#held;
    this.#held = undefined;
    this.#marquee = undefined;
    if (!held) return;
    if (Math.hypot(at.x - held.from.x, at.y - held.from.y) > 2 * at.px) {
      this.#changed(this.#shape, 'done', nameOf(held.grip, this.#chosen, at).trim());
      return;
    }
    const segment =
      held.grip.kind === 'point' || held.grip.kind === 'size' || held.grip.kind === 'feather'
        ? undefined
        : this.#segmentAt(at);
    const { geometry } = held.start;
    if (segment && geometry.form === 'spline') {
      this.#chosen = new Set([segment.index + 1]);
      this.#replace(
        { ...held.start, geometry: { ...geometry, points: withPointAdded(geometry.points, segment.index, segment.t) } },
        'Add a point',
      );
    } else if (this.#shape !== held.start) this.#replace(held.start, '');
  }
  #replace(shape: Shape, what: string) {
    this.#shape = shape;
    this.#changed(shape, what ? 'done' : 'drag', what);
  }
  double(at: At) {
    const grip = this.#gripAt(at);
    const { geometry } = this.#shape;
    if (grip?.kind === 'point' && geometry.form === 'spline')
      this.#replace(
        { ...this.#shape, geometry: { ...geometry, points: toggledCorner(geometry.points, grip.index) } },
        'Corner or smooth',
      );
  }
  key(key: ToolKey): boolean {
    if (key === 'Enter' || this.#chosen.size === 0) return false;
    const { geometry } = this.#shape;
    if (key === 'Delete' && geometry.form === 'spline') {
      const points = withoutPoints(geometry.points, this.#chosen);
      if (points)
        this.#replace(
          { ...this.#shape, geometry: { ...geometry, points } },
          this.#chosen.size === 1 ? 'Delete a point' : `Delete ${this.#chosen.size} points`,
        );
    }
    this.#chosen = new Set();
    return true;
  }
  nudge(dx: number, dy: number): boolean {
    const only = this.#shape.geometry.form === 'spline' && this.#chosen.size > 0 ? this.#chosen : undefined;
    this.#replace({ ...this.#shape, geometry: movedGeometry(this.#shape.geometry, moveBy(dx, dy), only) }, 'Nudge');
    return true;
  }
  /** Takes over a shape changed elsewhere (typed, undone), unless the hand is on it. */
  sync(shape: Shape) {
    if (this.#held) return;
    const count = (s: Shape) => (s.geometry.form === 'spline' ? s.geometry.points.length : 0);
    if (count(shape) !== count(this.#shape)) this.#chosen = new Set();
    this.#shape = shape;
  }
  draw(context: CanvasRenderingContext2D, to: ToScreen, ghosted: boolean) {
    const { geometry, feather } = this.#shape;
    context.globalAlpha = ghosted ? 0.35 : 1;
    if (geometry.form === 'gradient') this.#drawGradient(context, to, geometry);
    else {
      const path = pathOf(geometry);
      tracePath(context, path, to);
      strokeTwice(context);
      for (const width of [feather.outerPx, -feather.innerPx]) {
        if (width === 0) continue;
        context.beginPath();
        featherOutline(path, width).forEach(([x, y], i) =>
          i === 0 ? context.moveTo(...to(x, y)) : context.lineTo(...to(x, y)),
        );
        context.closePath();
        strokeTwice(context, true);
      }
    }
    context.globalAlpha = 1;
    if (ghosted) return;
    this.#drawArms(context, to);
    const box = transformBox(geometry, this.#chosen, this.#px);
    if (box && geometry.form === 'spline') {
      context.beginPath();
      for (const [i, [u, v]] of (
        [
          [-1, -1],
          [1, -1],
          [1, 1],
          [-1, 1],
        ] as const
      ).entries())
        context[i === 0 ? 'moveTo' : 'lineTo'](...to(...boxPoint(box, u, v)));
      context.closePath();
      context.lineWidth = 1;
      context.strokeStyle = 'rgba(255,255,255,0.55)';
      context.stroke();
    }
    const over = JSON.stringify(this.#over);
    for (const h of handlesOf(this.#shape, this.#chosen, this.#px).reverse())
      drawHandle(context, to(h.x, h.y), h.look, JSON.stringify(h.grip) === over);
    if (this.#marquee) {
      const [[x0, y0], [x1, y1]] = [
        to(this.#marquee.from.x, this.#marquee.from.y),
        to(this.#marquee.to.x, this.#marquee.to.y),
      ];
      context.beginPath();
      context.rect(x0, y0, x1 - x0, y1 - y0);
      strokeTwice(context, true);
    }
  }
  #drawArms(context: CanvasRenderingContext2D, to: ToScreen) {
    if (this.#shape.geometry.form !== 'spline') return;
    for (const p of this.#shape.geometry.points)
      for (const [hx, hy] of [
        [p.inX, p.inY],
        [p.outX, p.outY],
      ] as const) {
        if (!hx && !hy) continue;
        context.beginPath();
        context.moveTo(...to(p.x, p.y));
        context.lineTo(...to(p.x + hx, p.y + hy));
        context.lineWidth = 1;
        context.strokeStyle = 'rgba(255,255,255,0.7)';
        context.stroke();
      }
  }
  /** The line from full to nothing, with a bar across either end. */
  #drawGradient(
    context: CanvasRenderingContext2D,
    to: ToScreen,
    { x0, y0, x1, y1 }: { x0: number; y0: number; x1: number; y1: number },
  ) {
    const [[ax, ay], [bx, by]] = [to(x0, y0), to(x1, y1)];
    const length = Math.hypot(bx - ax, by - ay) || 1;
    const [nx, ny] = [(-(by - ay) / length) * 60, ((bx - ax) / length) * 60];
    context.beginPath();
    context.moveTo(ax, ay);
    context.lineTo(bx, by);
    for (const [x, y] of [
      [ax, ay],
      [bx, by],
    ] as const) {
      context.moveTo(x - nx, y - ny);
      context.lineTo(x + nx, y + ny);
    }
    strokeTwice(context);
  }
}
