import type { Geometry, PathPoint } from '../document/geometry.ts';

/**
 * Handle length of a quarter circle of radius 1: (4/3)·tan(π/8) makes the curve meet the circle at 45° too; the radius
 * is then off by at most 2.7e-4 (standard result; checked in path.test.ts).
 */
export const QUARTER_CIRCLE_HANDLE = (4 / 3) * Math.tan(Math.PI / 8);

const corner = (x: number, y: number): PathPoint => ({ x, y, inX: 0, inY: 0, outX: 0, outY: 0 });

function unitPath(form: 'rectangle' | 'ellipse'): PathPoint[] {
  if (form === 'rectangle') return [corner(-0.5, -0.5), corner(0.5, -0.5), corner(0.5, 0.5), corner(-0.5, 0.5)];
  const k = QUARTER_CIRCLE_HANDLE / 2;
  return [
    { x: 0, y: -0.5, inX: -k, inY: 0, outX: k, outY: 0 },
    { x: 0.5, y: 0, inX: 0, inY: -k, outX: 0, outY: k },
    { x: 0, y: 0.5, inX: k, inY: 0, outX: -k, outY: 0 },
    { x: -0.5, y: 0, inX: 0, inY: k, outX: 0, outY: -k },
  ];
}

/** The closed path of a geometry, in picture pixels; a gradient has none. */
export function pathOf(geometry: Geometry): PathPoint[] {
  if (geometry.form === 'gradient') return [];
  if (geometry.form === 'spline') return geometry.points;
  const { cx, cy, width, height, turnDeg } = geometry;
  const cos = Math.cos((turnDeg * Math.PI) / 180);
  const sin = Math.sin((turnDeg * Math.PI) / 180);
  const place = (x: number, y: number): [number, number] => [
    x * width * cos - y * height * sin,
    x * width * sin + y * height * cos,
  ];
  return unitPath(geometry.form).map((p) => {
    const [x, y] = place(p.x, p.y);
    const [inX, inY] = place(p.inX, p.inY);
    const [outX, outY] = place(p.outX, p.outY);
    return { x: x + cx, y: y + cy, inX, inY, outX, outY };
  });
}

/** Corner points run x0, y0, x1, y1 …; the last joins the first. */
export type Polygon = Float64Array;

/**
 * The path as a polygon in units of `scale` pixels, no further than `tolerance` from the curve. The step count is
 * Wang's bound (G. Wang 1984; R. Goldman, "Pyramid Algorithms", 2003, ch. 5): n² ≥ (3·2/8)·max‖second difference‖ /
 * tolerance.
 */
export const polygonFromPath = (points: readonly PathPoint[], scale = 1, tolerance = 0.01): Polygon =>
  featheredPolygon(points, scale, tolerance).polygon;

/** `polygonFromPath`, with the feather factor at each of its corners; undefined where it is 1 all along. */
export function featheredPolygon(
  points: readonly PathPoint[],
  scale = 1,
  tolerance = 0.01,
): { polygon: Polygon; weights: Float64Array | undefined } {
  const out: number[] = [];
  const weights: number[] = [];
  points.forEach((p, i) => {
    const q = points[(i + 1) % points.length]!;
    const xs = [p.x, p.x + p.outX, q.x + q.inX, q.x].map((v) => v * scale) as [number, number, number, number];
    const ys = [p.y, p.y + p.outY, q.y + q.inY, q.y].map((v) => v * scale) as [number, number, number, number];
    const second = Math.max(
      Math.hypot(xs[0] - 2 * xs[1] + xs[2], ys[0] - 2 * ys[1] + ys[2]),
      Math.hypot(xs[1] - 2 * xs[2] + xs[3], ys[1] - 2 * ys[2] + ys[3]),
    );
    const straight = p.outX === 0 && p.outY === 0 && q.inX === 0 && q.inY === 0;
    const n = straight ? 1 : Math.max(Math.ceil(Math.sqrt((0.75 * second) / tolerance)), 1);
    const [from, to] = [p.feather ?? 1, q.feather ?? 1];
    for (let k = 0; k < n; k++) {
      out.push(bezier(xs, k / n), bezier(ys, k / n));
      weights.push(from + ((to - from) * k) / n);
    }
  });
  return {
    polygon: Float64Array.from(out),
    weights: weights.some((w) => w !== 1) ? Float64Array.from(weights) : undefined,
  };
}

/** One coordinate of a cubic Bézier at `t` in 0..1, by its Bernstein form. */
export function bezier([p0, p1, p2, p3]: readonly [number, number, number, number], t: number): number {
  const s = 1 - t;
  return s * s * s * p0 + 3 * s * s * t * p1 + 3 * s * t * t * p2 + t * t * t * p3;
}

/**
 * A point added at `t` of segment `index` by de Casteljau's subdivision: the curve stays exactly as it was. On a
 * straight segment it is a corner.
 */
export function withPointAdded(points: readonly PathPoint[], index: number, t: number): PathPoint[] {
  const p = points[index]!;
  const nextIndex = (index + 1) % points.length;
  const q = points[nextIndex]!;
  const mix = (a: number, b: number) => a + (b - a) * t;
  const straight = p.outX === 0 && p.outY === 0 && q.inX === 0 && q.inY === 0;
  const split = (p0: number, p1: number, p2: number, p3: number) => {
    const [p01, p12, p23] = [mix(p0, p1), mix(p1, p2), mix(p2, p3)];
    const [p012, p123] = [mix(p01, p12), mix(p12, p23)];
    return { firstOut: p01 - p0, secondIn: p23 - p3, at: mix(p012, p123), left: p012, right: p123 };
  };
  const x = split(p.x, p.x + p.outX, q.x + q.inX, q.x);
  const y = split(p.y, p.y + p.outY, q.y + q.inY, q.y);
  const added: PathPoint = {
    x: x.at,
    y: y.at,
    inX: x.left - x.at,
    inY: y.left - y.at,
    outX: x.right - x.at,
    outY: y.right - y.at,
    feather: mix(p.feather ?? 1, q.feather ?? 1),
  };
  if (straight)
    return [...points.slice(0, index + 1), { ...added, inX: 0, inY: 0, outX: 0, outY: 0 }, ...points.slice(index + 1)];
  const result = points.map((each, i) => {
    if (i === index && i === nextIndex)
      return { ...each, outX: x.firstOut, outY: y.firstOut, inX: x.secondIn, inY: y.secondIn };
    if (i === index) return { ...each, outX: x.firstOut, outY: y.firstOut };
    if (i === nextIndex) return { ...each, inX: x.secondIn, inY: y.secondIn };
    return each;
  });
  result.splice(index + 1, 0, added);
  return result;
}
