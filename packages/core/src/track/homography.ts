import { inverse, multiply, type Matrix3 } from '../colour/matrix3.ts';
import { solveInPlace } from './linear.ts';

/** A projective map of the picture plane, row by row, last element 1 where it can be. */
export type Homography = Matrix3;
export type Point = readonly [x: number, y: number];
export type Quad = readonly [Point, Point, Point, Point];
export const STILL: Homography = [1, 0, 0, 0, 1, 0, 0, 0, 1];

export function project(h: Homography, x: number, y: number): [number, number] {
  const w = h[6] * x + h[7] * y + h[8];
  return [(h[0] * x + h[1] * y + h[2]) / w, (h[3] * x + h[4] * y + h[5]) / w];
}
const scaledToOne = (h: Homography): Homography => (h[8] === 0 ? h : (h.map((v) => v / h[8]) as unknown as Homography));
/** The map that does `b`, then `a`: `a ∘ b`. */
export const compose = (a: Homography, b: Homography): Homography => scaledToOne(multiply(a, b));
/** The map back. Throws RangeError when the map folds the plane flat. */
export const inverted = (h: Homography): Homography => scaledToOne(inverse(h));

/** First derivatives of the map at a place: [∂x′/∂x, ∂x′/∂y, ∂y′/∂x, ∂y′/∂y]. */
export function jacobianAt(h: Homography, x: number, y: number): [number, number, number, number] {
  const w = h[6] * x + h[7] * y + h[8];
  const [px, py] = [(h[0] * x + h[1] * y + h[2]) / w, (h[3] * x + h[4] * y + h[5]) / w];
  return [(h[0] - px * h[6]) / w, (h[1] - px * h[7]) / w, (h[3] - py * h[6]) / w, (h[4] - py * h[7]) / w];
}

/**
 * The map that takes one quadrilateral's corners to another's (direct linear transform, Hartley & Zisserman, "Multiple
 * View Geometry", 2nd ed., 4.1, with h₃₃ = 1). Undefined when three of the corners lie on a line.
 */
export function homographyOfQuads(from: Quad, to: Quad): Homography | undefined {
  const a = new Float64Array(64);
  const b = new Float64Array(8);
  for (let i = 0; i < 4; i++) {
    const [x, y] = from[i]!;
    const [u, v] = to[i]!;
    a.set([x, y, 1, 0, 0, 0, -u * x, -u * y], i * 16);
    a.set([0, 0, 0, x, y, 1, -v * x, -v * y], i * 16 + 8);
    b[2 * i] = u;
    b[2 * i + 1] = v;
  }
  return solveInPlace(a, b, 8) ? ([...b, 1] as unknown as Homography) : undefined;
}

export const projectQuad = (h: Homography, quad: Quad): Quad =>
  quad.map(([x, y]) => project(h, x, y)) as unknown as Quad;
const cross = (o: Point, p: Point, q: Point) => (p[0] - o[0]) * (q[1] - o[1]) - (p[1] - o[1]) * (q[0] - o[0]);
/** Signed area by the shoelace formula. */
export const quadArea = (q: Quad): number =>
  q.reduce((sum, p, i) => sum + p[0] * q[(i + 1) % 4]![1] - q[(i + 1) % 4]![0] * p[1], 0) / 2;
/** Convex and turned the same way as `like`: neither folded, concave nor mirrored. */
export function isSoundQuad(q: Quad, like: Quad): boolean {
  const sign = Math.sign(quadArea(like));
  return q.every(
    (p, i) => Number.isFinite(p[0]) && Number.isFinite(p[1]) && sign * cross(p, q[(i + 1) % 4]!, q[(i + 2) % 4]!) > 0,
  );
}
