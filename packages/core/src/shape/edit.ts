import type { Geometry, PathPoint } from '../document/geometry.ts';
import { bezier, pathOf } from './path.ts';

/** An affine move of the plane: x′ = a·x + c·y + e, y′ = b·x + d·y + f. */
export interface Affine {
  a: number;
  b: number;
  c: number;
  d: number;
  e: number;
  f: number;
}
export const moveBy = (dx: number, dy: number): Affine => ({ a: 1, b: 0, c: 0, d: 1, e: dx, f: dy });

/** A linear move (turn, scale, shear) about a fixed place. */
export function about(cx: number, cy: number, [a, b, c, d]: readonly [number, number, number, number]): Affine {
  return { a, b, c, d, e: cx - a * cx - c * cy, f: cy - b * cx - d * cy };
}
export function turnAbout(cx: number, cy: number, deg: number): Affine {
  const [cos, sin] = [Math.cos((deg * Math.PI) / 180), Math.sin((deg * Math.PI) / 180)];
  return about(cx, cy, [cos, sin, -sin, cos]);
}

function movedPoint(p: PathPoint, m: Affine): PathPoint {
  const at = (x: number, y: number): [number, number] => [m.a * x + m.c * y, m.b * x + m.d * y];
  const [x, y] = at(p.x, p.y);
  const [inX, inY] = at(p.inX, p.inY);
  const [outX, outY] = at(p.outX, p.outY);
  return { ...p, x: x + m.e, y: y + m.f, inX, inY, outX, outY };
}

/**
 * Does the move keep right angles right and axes apart, so that a box stays a box? Only moves, even scales and turns
 * do.
 */
const isSimilarity = (m: Affine): boolean => Math.abs(m.a - m.d) < 1e-9 && Math.abs(m.b + m.c) < 1e-9;

/**
 * A geometry moved as a whole, or (of a spline) only the points listed. A rectangle or an ellipse that is no longer one
 * afterwards, because it was sheared or scaled askew, comes back as a spline of the same outline.
 */
export function movedGeometry(geometry: Geometry, m: Affine, only?: ReadonlySet<number>): Geometry {
  if (geometry.form === 'gradient') {
    const at = (x: number, y: number): [number, number] => [m.a * x + m.c * y + m.e, m.b * x + m.d * y + m.f];
    const [[x0, y0], [x1, y1]] = [at(geometry.x0, geometry.y0), at(geometry.x1, geometry.y1)];
    return { form: 'gradient', x0, y0, x1, y1 };
  }
  if (geometry.form === 'spline')
    return { form: 'spline', points: geometry.points.map((p, i) => (!only || only.has(i) ? movedPoint(p, m) : p)) };
  if (!isSimilarity(m)) return { form: 'spline', points: pathOf(geometry).map((p) => movedPoint(p, m)) };
  const scale = Math.hypot(m.a, m.b);
  return {
    ...geometry,
    cx: m.a * geometry.cx + m.c * geometry.cy + m.e,
    cy: m.b * geometry.cx + m.d * geometry.cy + m.f,
    width: geometry.width * scale,
    height: geometry.height * scale,
    turnDeg: geometry.turnDeg + (Math.atan2(m.b, m.a) * 180) / Math.PI,
  };
}

/** A path without some of its points; undefined when fewer than three would be left. */
export function withoutPoints(points: readonly PathPoint[], gone: ReadonlySet<number>): PathPoint[] | undefined {
  const left = points.filter((_, i) => !gone.has(i));
  return left.length < 3 ? undefined : left;
}

/**
 * A smooth point made a corner (no handles), a corner made smooth (handles a sixth of the way between its neighbours).
 */
export function toggledCorner(points: readonly PathPoint[], index: number): PathPoint[] {
  const p = points[index]!;
  const smooth = p.inX !== 0 || p.inY !== 0 || p.outX !== 0 || p.outY !== 0;
  const previous = points[(index + points.length - 1) % points.length]!;
  const next = points[(index + 1) % points.length]!;
  const [hx, hy] = smooth ? [0, 0] : [(next.x - previous.x) / 6, (next.y - previous.y) / 6];
  return points.map((each, i) =>
    i === index ? { ...each, inX: smooth ? 0 : -hx, inY: smooth ? 0 : -hy, outX: hx, outY: hy } : each,
  );
}

/** Steps a segment is looked at when the nearest place on a path is searched; the best is then refined by halving. */
const LOOKS = 24;

/**
 * The place on a closed path nearest to (x, y): segment, position 0..1 on it, distance. Undefined for an empty path.
 */
export function nearestOnPath(
  points: readonly PathPoint[],
  x: number,
  y: number,
): { index: number; t: number; distance: number } | undefined {
  let best: { index: number; t: number; distance: number } | undefined;
  points.forEach((p, index) => {
    const q = points[(index + 1) % points.length]!;
    const xs = [p.x, p.x + p.outX, q.x + q.inX, q.x] as const;
    const ys = [p.y, p.y + p.outY, q.y + q.inY, q.y] as const;
    const far = (t: number) => Math.hypot(bezier(xs, t) - x, bezier(ys, t) - y);
    let t = 0;
    for (let k = 1; k <= LOOKS; k++) if (far(k / LOOKS) < far(t)) t = k / LOOKS;
    for (let step = 0.5 / LOOKS; step > 1e-5; step /= 2) {
      const [lower, upper] = [Math.max(t - step, 0), Math.min(t + step, 1)];
      if (far(lower) < far(t)) t = lower;
      else if (far(upper) < far(t)) t = upper;
    }
    if (!best || far(t) < best.distance) best = { index, t, distance: far(t) };
  });
  return best;
}

/** Bounds of a geometry's points (handles left out), or of the listed ones. */
export function boundsOf(
  geometry: Geometry,
  only?: ReadonlySet<number>,
): { x0: number; y0: number; x1: number; y1: number } {
  const all =
    geometry.form === 'gradient'
      ? [
          { x: geometry.x0, y: geometry.y0 },
          { x: geometry.x1, y: geometry.y1 },
        ]
      : pathOf(geometry);
  const some = only && only.size > 0 ? all.filter((_, i) => only.has(i)) : all;
  const [xs, ys] = [some.map((p) => p.x), some.map((p) => p.y)];
  return { x0: Math.min(...xs), y0: Math.min(...ys), x1: Math.max(...xs), y1: Math.max(...ys) };
}
