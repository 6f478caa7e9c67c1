import { boundsOfMatte, cutOut, putBack } from '../matte/bounds.ts';
import { boxMean } from '../matte/boxMean.ts';
import type { SizedPicture } from './preparedPicture.ts';

/** Half width of the windows in which α follows the colours; the paper's is 1, wider ones need fewer rounds. */
const RADIUS = 2;
/** Variance of colour, OKLab, under which a window counts as of one colour. */
const EPSILON = 1e-7;
const MOST_ROUNDS = 200;
/** Solved to this share of what it was off at first. */
const TOLERANCE = 1e-3;

/**
 * α where it is unsure (`unsure` 1), from the picture itself and α elsewhere: the one that is nearest to a linear
 * function of colour in each small window. A. Levin, D. Lischinski, Y. Weiss, "A Closed-Form Solution to Natural Image
 * Matting", PAMI 2008; its matrix is never made, only multiplied by (K. He, J. Sun, X. Tang, "Fast Matting Using Large
 * Kernel Matting Laplacian Matrices", CVPR 2010), and the system solved by conjugate gradients. α known is returned as
 * it is.
 */
export function closedFormMatte(picture: SizedPicture, alpha: Float32Array, unsure: Uint8Array): Float32Array {
  const { width, height } = picture;
  const out = alpha.slice();
  const bounds = boundsOfMatte(Float32Array.from(unsure), width, height);
  if (!bounds) return out;
  const margin = 2 * RADIUS + 1;
  const x0 = Math.max(bounds.x0 - margin, 0);
  const y0 = Math.max(bounds.y0 - margin, 0);
  const box = { x0, y0, x1: Math.min(bounds.x1 + margin, width), y1: Math.min(bounds.y1 + margin, height) };
  const part = (plane: Float32Array) => cutOut(plane, width, box);
  const { L, a, b } = picture.oklab;
  const free = part(Float32Array.from(unsure));
  // about their means, or small variances would be lost in single precision
  const planes = [L, a, b].map((plane) => centred(part(plane)));
  const laplacian = new MattingLaplacian(planes, box.x1 - x0, box.y1 - y0);
  putBack(out, width, solved(laplacian, part(alpha), free), box);
  return out;
}

function centred(plane: Float32Array): Float32Array {
  const mean = plane.reduce((s, v) => s + v, 0) / plane.length;
  return plane.map((v) => v - mean);
}

/** Conjugate gradients (M. Hestenes, E. Stiefel 1952) for the free pixels; the others stay as they are. */
function solved(laplacian: MattingLaplacian, known: Float32Array, free: Float32Array): Float32Array {
  const n = known.length;
  const x = known.map((v, i) => (free[i] === 1 ? 0.5 : v));
  const residual = laplacian.times(x);
  for (let i = 0; i < n; i++) residual[i] = free[i] === 1 ? -residual[i]! : 0;
  const direction = residual.slice();
  let square = dot(residual, residual);
  const enough = square * TOLERANCE ** 2;
  for (let round = 0; round < MOST_ROUNDS && square > enough; round++) {
    const along = laplacian.times(direction);
    for (let i = 0; i < n; i++) if (free[i] === 0) along[i] = 0;
    const step = square / dot(direction, along);
    if (!Number.isFinite(step)) break;
    for (let i = 0; i < n; i++) {
      x[i]! += step * direction[i]!;
      residual[i]! -= step * along[i]!;
    }
    const next = dot(residual, residual);
    const share = next / square;
    for (let i = 0; i < n; i++) direction[i] = residual[i]! + share * direction[i]!;
    square = next;
  }
  for (let i = 0; i < n; i++) x[i] = Math.min(Math.max(x[i]!, 0), 1);
  return x;
}
function dot(p: Float32Array, q: Float32Array): number {
  let sum = 0;
  for (let i = 0; i < p.length; i++) sum += p[i]! * q[i]!;
  return sum;
}

/** Products with the matting Laplacian of a picture, by window means. */
class MattingLaplacian {
  readonly #planes: readonly Float32Array[];
  readonly #width: number;
  readonly #height: number;
  readonly #means: readonly Float32Array[];
  /** Per pixel, the inverse of its window's covariance: LL, La, Lb, aa, ab, bb. */
  readonly #inverse: Float32Array;
  constructor(planes: readonly Float32Array[], width: number, height: number) {
    this.#planes = planes;
    this.#width = width;
    this.#height = height;
    this.#means = planes.map((p) => this.#mean(p));
    const product = (p: Float32Array, q: Float32Array) => this.#mean(p.map((v, i) => v * q[i]!));
    const [L, a, b] = planes as [Float32Array, Float32Array, Float32Array];
    const [mL, mA, mB] = this.#means as [Float32Array, Float32Array, Float32Array];
    const [LL, LA, LB, AA, AB, BB] = [
      product(L, L),
      product(L, a),
      product(L, b),
      product(a, a),
      product(a, b),
      product(b, b),
    ];
    this.#inverse = new Float32Array(6 * L.length);
    for (let i = 0; i < L.length; i++) {
      const xx = LL[i]! - mL[i]! * mL[i]! + EPSILON;
      const xy = LA[i]! - mL[i]! * mA[i]!;
      const xz = LB[i]! - mL[i]! * mB[i]!;
      const yy = AA[i]! - mA[i]! * mA[i]! + EPSILON;
      const yz = AB[i]! - mA[i]! * mB[i]!;
      const zz = BB[i]! - mB[i]! * mB[i]! + EPSILON;
      const c00 = yy * zz - yz * yz;
      const c01 = xz * yz - xy * zz;
      const c02 = xy * yz - xz * yy;
      const det = xx * c00 + xy * c01 + xz * c02;
      const o = 6 * i;
      this.#inverse[o] = c00 / det;
      this.#inverse[o + 1] = c01 / det;
      this.#inverse[o + 2] = c02 / det;
      this.#inverse[o + 3] = (xx * zz - xz * xz) / det;
      this.#inverse[o + 4] = (xy * xz - xx * yz) / det;
      this.#inverse[o + 5] = (xx * yy - xy * xy) / det;
    }
  }
  #mean(plane: Float32Array): Float32Array {
    return boxMean(plane, this.#width, this.#height, RADIUS);
  }
  /** L·α: what α differs by from the linear functions of colour that fit it best, meant over windows. */
  times(alpha: Float32Array): Float32Array {
    const n = alpha.length;
    const [L, a, b] = this.#planes as [Float32Array, Float32Array, Float32Array];
    const [mL, mA, mB] = this.#means as [Float32Array, Float32Array, Float32Array];
    const product = new Float32Array(n);
    const meanWith = (plane: Float32Array) => {
      for (let i = 0; i < n; i++) product[i] = plane[i]! * alpha[i]!;
      return this.#mean(product);
    };
    const mean = this.#mean(alpha);
    const [pL, pA, pB] = [meanWith(L), meanWith(a), meanWith(b)];
    const [kL, kA, kB, k] = [pL, pA, pB, mean.slice()];
    for (let i = 0, o = 0; i < n; i++, o += 6) {
      const u = pL[i]! - mL[i]! * mean[i]!;
      const v = pA[i]! - mA[i]! * mean[i]!;
      const w = pB[i]! - mB[i]! * mean[i]!;
      const inverse = this.#inverse;
      kL[i] = inverse[o]! * u + inverse[o + 1]! * v + inverse[o + 2]! * w;
      kA[i] = inverse[o + 1]! * u + inverse[o + 3]! * v + inverse[o + 4]! * w;
      kB[i] = inverse[o + 2]! * u + inverse[o + 4]! * v + inverse[o + 5]! * w;
      k[i] = mean[i]! - kL[i]! * mL[i]! - kA[i]! * mA[i]! - kB[i]! * mB[i]!;
    }
    const [qL, qA, qB, q] = [this.#mean(kL), this.#mean(kA), this.#mean(kB), this.#mean(k)];
    const out = new Float32Array(n);
    for (let i = 0; i < n; i++) out[i] = alpha[i]! - qL[i]! * L[i]! - qA[i]! * a[i]! - qB[i]! * b[i]! - q[i]!;
    return out;
  }
}
