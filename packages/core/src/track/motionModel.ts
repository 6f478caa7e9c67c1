import type { Freedom } from '../document/motion.ts';
import { compose, inverted, project, type Homography } from './homography.ts';
import { solveInPlace } from './linear.ts';

/**
 * Small motions are I + Σ pᵢGᵢ in coordinates centred on the region and divided by its half size, so that all pᵢ are of
 * one order. Gᵢ are the generators of the projective group (e.g. Drummond & Cipolla 1999).
 */
const GENERATORS: { of: Exclude<keyof Freedom, 'flex'>; matrix: readonly number[]; usual: number }[] = [
  { of: 'move', matrix: [0, 0, 1, 0, 0, 0, 0, 0, 0], usual: Infinity },
  { of: 'move', matrix: [0, 0, 0, 0, 0, 1, 0, 0, 0], usual: Infinity },
  { of: 'turn', matrix: [0, -1, 0, 1, 0, 0, 0, 0, 0], usual: 0.05 },
  { of: 'scale', matrix: [1, 0, 0, 0, 1, 0, 0, 0, 0], usual: 0.05 },
  { of: 'shear', matrix: [1, 0, 0, 0, -1, 0, 0, 0, 0], usual: 0.01 },
  { of: 'shear', matrix: [0, 1, 0, 1, 0, 0, 0, 0, 0], usual: 0.01 },
  { of: 'perspective', matrix: [0, 0, 0, 0, 0, 0, -1, 0, 0], usual: 0.006 },
  { of: 'perspective', matrix: [0, 0, 0, 0, 0, 0, 0, -1, 0], usual: 0.006 },
];

/** The motions a track may make, about the middle of its region. */
export class MotionModel {
  readonly size: number;
  /**
   * By how much each parameter usually differs from where a frame's search starts: holds back what weak texture leaves
   * open.
   */
  readonly usualChange: readonly number[];
  readonly #generators: readonly (readonly number[])[];
  readonly #toUnit: Homography;
  readonly #fromUnit: Homography;
  readonly cx: number;
  readonly cy: number;
  readonly half: number;

  /** `cx`, `cy`, `half`: middle and half size of the region, picture pixels. */
  constructor(freedom: Freedom, cx: number, cy: number, half: number) {
    const allowed = GENERATORS.filter((g) => freedom[g.of]);
    this.#generators = allowed.map((g) => g.matrix);
    this.usualChange = allowed.map((g) => g.usual);
    this.size = this.#generators.length;
    [this.cx, this.cy, this.half] = [cx, cy, half];
    this.#toUnit = [1 / half, 0, -cx / half, 0, 1 / half, -cy / half, 0, 0, 1];
    this.#fromUnit = [half, 0, cx, 0, half, cy, 0, 0, 1];
  }

  /** The motion of parameters p, as a map of picture pixels. */
  step(p: ArrayLike<number>): Homography {
    const m = [1, 0, 0, 0, 1, 0, 0, 0, 1];
    this.#generators.forEach((g, k) => g.forEach((v, i) => (m[i] = m[i]! + v * p[k]!)));
    return compose(this.#fromUnit, compose(m as unknown as Homography, this.#toUnit));
  }

  /** Velocity of a place under each parameter, in picture pixels: out[2k], out[2k + 1]. */
  flowInto(out: Float64Array, x: number, y: number): void {
    const [u, v] = [(x - this.cx) / this.half, (y - this.cy) / this.half];
    for (let k = 0; k < this.size; k++) {
      const g = this.#generators[k]!;
      const w = g[6]! * u + g[7]! * v;
      out[2 * k] = (g[0]! * u + g[1]! * v + g[2]! - u * w) * this.half;
      out[2 * k + 1] = (g[3]! * u + g[4]! * v + g[5]! - v * w) * this.half;
    }
  }

  /**
   * The motion nearest to `start` that carries the `from` points (x, y, x, y …) to the `to` points, by weighted least
   * squares: Gauss–Newton on the distances in the target frame. Undefined when the points do not fix it.
   */
  fit(
    start: Homography,
    from: ArrayLike<number>,
    to: ArrayLike<number>,
    weights: ArrayLike<number> | undefined,
    indices: ArrayLike<number>,
    rounds: number,
  ): Homography | undefined {
    const n = this.size;
    let h = start;
    const flow = new Float64Array(2 * n);
    const a = new Float64Array(n * n);
    const b = new Float64Array(n);
    const row = new Float64Array(2 * n);
    for (let round = 0; round < rounds; round++) {
      a.fill(0);
      b.fill(0);
      for (let k = 0; k < indices.length; k++) {
        const i = indices[k]!;
        const weight = weights ? weights[i]! : 1;
        if (weight === 0) continue;
        const [x, y] = [from[2 * i]!, from[2 * i + 1]!];
        this.flowInto(flow, x, y);
        const w = h[6] * x + h[7] * y + h[8];
        const [px, py] = [(h[0] * x + h[1] * y + h[2]) / w, (h[3] * x + h[4] * y + h[5]) / w];
        const [j0, j1, j2, j3] = [
          (h[0] - px * h[6]) / w,
          (h[1] - px * h[7]) / w,
          (h[3] - py * h[6]) / w,
          (h[4] - py * h[7]) / w,
        ];
        const [ex, ey] = [to[2 * i]! - px, to[2 * i + 1]! - py];
        for (let c = 0; c < n; c++) {
          row[2 * c] = j0 * flow[2 * c]! + j1 * flow[2 * c + 1]!;
          row[2 * c + 1] = j2 * flow[2 * c]! + j3 * flow[2 * c + 1]!;
        }
        for (let c = 0; c < n; c++) {
          const [rx, ry] = [row[2 * c]! * weight, row[2 * c + 1]! * weight];
          b[c] = b[c]! + rx * ex + ry * ey;
          for (let d = 0; d <= c; d++) a[c * n + d] = a[c * n + d]! + rx * row[2 * d]! + ry * row[2 * d + 1]!;
        }
      }
      for (let c = 0; c < n; c++) {
        for (let d = 0; d < c; d++) a[d * n + c] = a[c * n + d]!;
        a[c * n + c] = a[c * n + c]! * (1 + 1e-9) + 1e-9;
      }
      if (!solveInPlace(a, b, n)) return undefined;
      let largest = 0;
      for (let c = 0; c < n; c++) largest = Math.max(largest, Math.abs(b[c]!));
      if (!(largest < 0.6)) return undefined;
      h = compose(h, this.step(b));
      if (largest < 1e-7) break;
    }
    return h;
  }
}

/** The motion of `h` with `p` taken off it on the side of the reference frame: the inverse compositional update. */
export const composedInverse = (h: Homography, step: Homography): Homography => compose(h, inverted(step));
/** Squared distance of a point's image from where it should be. */
export function squaredError(h: Homography, x: number, y: number, u: number, v: number): number {
  const [px, py] = project(h, x, y);
  return (px - u) ** 2 + (py - v) ** 2;
}
