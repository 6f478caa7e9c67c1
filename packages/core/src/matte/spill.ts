import type { Spill } from '../document/cleaning.ts';
import type { OklabPlanes } from '../colour/oklabPlanes.ts';
import { maskDistanceInto } from '../shape/nearestSite.ts';
import { shapeMatteInto } from '../shape/shapeMatte.ts';
import { gaussianInPlace } from './gaussian.ts';

export const NO_SPILL: Spill = { mode: 'off', reachPx: 40, amount: 1, tolerance: 0.03 };

/**
 * What spill was found: its share in each pixel, and the colour of the piece and of the surroundings there (OKLab a,
 * b).
 */
export interface SpillMap {
  /**
   * 0..1: how much of the piece's colour the pixel carries, times the distance fall-off; 0 inside the matte and far
   * from it.
   */
  share: Float32Array;
  pieceA: Float32Array;
  pieceB: Float32Array;
  surroundA: Float32Array;
  surroundB: Float32Array;
}

/** A piece and surroundings closer than this in a,b (OKLab) cannot be told apart, so nothing is called spill. */
const LEAST_CONTRAST = 0.02;
/** Shares under this are noise. */
const LEAST_SHARE = 0.02;

/** Planes cut down by a whole factor: what follows is smooth over the reach and need not be known in every pixel. */
interface Coarse {
  w: number;
  h: number;
  factor: number;
}
function coarseMean(
  plane: Float32Array,
  weight: Float32Array,
  width: number,
  height: number,
  { w, h, factor }: Coarse,
): { mean: Float32Array; weight: Float32Array } {
  const sum = new Float32Array(w * h);
  const total = new Float32Array(w * h);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const i = y * width + x;
      const j = Math.floor(y / factor) * w + Math.floor(x / factor);
      sum[j] = sum[j]! + plane[i]! * weight[i]!;
      total[j] = total[j]! + weight[i]!;
    }
  for (let j = 0; j < sum.length; j++) sum[j] = total[j]! > 0 ? sum[j]! / total[j]! : 0;
  return { mean: sum, weight: total };
}

/**
 * Rounds of reweighting: each looks away from colours far from the last round's mean. A colour this far from it (OKLab
 * a, b) has half a say; the distance shrinks from round to round, so that a first mean gone astray can still come back.
 */
const HALF_SAY = [0.08, 0.05, 0.03, 0.02];

/**
 * Local mean of a, b where the weight is, seen with a Gaussian of σ coarse samples: normalised convolution (H.
 * Knutsson, C.-F. Westin 1993), made robust by iterated Cauchy weights (P. J. Huber, "Robust Statistics", 1981), so
 * that a strip of something else beside the floor does not tint what is taken for the floor.
 */
function localColour(
  a: Float32Array,
  b: Float32Array,
  weight: Float32Array,
  w: number,
  h: number,
  sigma: number,
  robust: boolean,
): { a: Float32Array; b: Float32Array } {
  let say = weight;
  let [meanA, meanB] = [a, b];
  for (const halfSay of robust ? HALF_SAY : HALF_SAY.slice(0, 1)) {
    const total = say.slice();
    gaussianInPlace(total, w, h, sigma);
    const nextA = blurredMean(a, say, total, w, h, sigma);
    const nextB = blurredMean(b, say, total, w, h, sigma);
    say = cauchy(weight, a, b, nextA, nextB, halfSay);
    [meanA, meanB] = [nextA, nextB];
  }
  return { a: meanA, b: meanB };
}
/** A plane's local mean by weights whose own blur is `total`; where there are none near, the mean of all. */
function blurredMean(
  plane: Float32Array,
  say: Float32Array,
  total: Float32Array,
  w: number,
  h: number,
  sigma: number,
): Float32Array {
  const overall = weightedMean(plane, say);
  const out = new Float32Array(plane.length);
  for (let i = 0; i < out.length; i++) out[i] = plane[i]! * say[i]!;
  gaussianInPlace(out, w, h, sigma);
  for (let i = 0; i < out.length; i++) out[i] = total[i]! > 1e-4 ? out[i]! / total[i]! : overall;
  return out;
}
/** Weights that look away from colours far from a mean. */
function cauchy(
  weight: Float32Array,
  a: Float32Array,
  b: Float32Array,
  meanA: Float32Array,
  meanB: Float32Array,
  halfSay: number,
): Float32Array {
  const out = new Float32Array(weight.length);
  const unit = halfSay ** 2;
  for (let i = 0; i < out.length; i++) {
    const offA = a[i]! - meanA[i]!;
    const offB = b[i]! - meanB[i]!;
    out[i] = weight[i]! / (1 + (offA * offA + offB * offB) / unit);
  }
  return out;
}

function weightedMean(plane: Float32Array, weight: Float32Array): number {
  let [sum, total] = [0, 0];
  for (let i = 0; i < plane.length; i++) {
    sum += plane[i]! * weight[i]!;
    total += weight[i]!;
  }
  return total > 0 ? sum / total : 0;
}

/** A coarse plane at every pixel again, bilinear between the coarse centres. */
function refined(coarse: Float32Array, { w, h, factor }: Coarse, width: number, height: number): Float32Array {
  const out = new Float32Array(width * height);
  for (let y = 0; y < height; y++) {
    const v = Math.min(Math.max((y + 0.5) / factor - 0.5, 0), h - 1);
    const y0 = Math.floor(v);
    const y1 = Math.min(y0 + 1, h - 1);
    for (let x = 0; x < width; x++) {
      const u = Math.min(Math.max((x + 0.5) / factor - 0.5, 0), w - 1);
      const x0 = Math.floor(u);
      const x1 = Math.min(x0 + 1, w - 1);
      const top = coarse[y0 * w + x0]! + (coarse[y0 * w + x1]! - coarse[y0 * w + x0]!) * (u - x0);
      const bottom = coarse[y1 * w + x0]! + (coarse[y1 * w + x1]! - coarse[y1 * w + x0]!) * (u - x0);
      out[y * width + x] = top + (bottom - top) * (v - y0);
    }
  }
  return out;
}

function spillWithin(
  alpha: Float32Array,
  { a, b }: Pick<OklabPlanes, 'a' | 'b'>,
  width: number,
  height: number,
  spill: Spill,
  scale: number,
): SpillMap | undefined {
  const n = alpha.length;
  const mask = new Uint8Array(n);
  let solid = 0;
  for (let i = 0; i < n; i++) if (alpha[i]! >= 0.5) solid += mask[i] = 1;
  const reach = spill.reachPx * scale;
  if (solid === 0 || solid === n || reach < 0.5) return undefined;
  const distance = new Float32Array(n);
  maskDistanceInto(distance, mask, width, height);
  const inside = new Float32Array(n);
  const outside = new Float32Array(n);
  for (let i = 0; i < n; i++) {
    inside[i] = alpha[i]! >= 0.95 ? 1 : 0;
    // the further out, the less bounce: full say from six tenths of the reach on
    const far = Math.min(distance[i]! / (0.6 * reach), 1);
    outside[i] = alpha[i]! > 0.02 ? 0 : far * far;
  }
  const factor = Math.max(Math.floor(reach / 10), 1);
  const coarse: Coarse = { factor, w: Math.ceil(width / factor), h: Math.ceil(height / factor) };
  const field = (weight: Float32Array, robust: boolean) => {
    const meanA = coarseMean(a, weight, width, height, coarse);
    const meanB = coarseMean(b, weight, width, height, coarse);
    // two thirds of the reach: wide enough to see past the bounce
    const colour = localColour(
      meanA.mean,
      meanB.mean,
      meanA.weight,
      coarse.w,
      coarse.h,
      Math.max((reach * 2) / 3 / factor, 1),
      robust,
    );
    return { a: refined(colour.a, coarse, width, height), b: refined(colour.b, coarse, width, height) };
  };
  const piece = field(inside, false);
  const surround = field(outside, true);
  const map: SpillMap = {
    share: new Float32Array(n),
    pieceA: piece.a,
    pieceB: piece.b,
    surroundA: surround.a,
    surroundB: surround.b,
  };
  for (let i = 0; i < n; i++) {
    const d = distance[i]!;
    if (d > reach || alpha[i]! >= 1) continue;
    const wayA = map.pieceA[i]! - map.surroundA[i]!;
    const wayB = map.pieceB[i]! - map.surroundB[i]!;
    const squared = wayA * wayA + wayB * wayB;
    if (squared < LEAST_CONTRAST * LEAST_CONTRAST) continue;
    const x = a[i]! - map.surroundA[i]!;
    const y = b[i]! - map.surroundB[i]!;
    const along = (x * wayA + y * wayB) / squared;
    if (along <= LEAST_SHARE) continue;
    const off = Math.hypot(x - along * wayA, y - along * wayB);
    const belongs = Math.min(Math.max(2 - off / spill.tolerance, 0), 1);
    // from the matte's edge the hold is full for half the reach, then lets go
    const fade = Math.min(Math.max(2 - (2 * d) / reach, 0), 1);
    // what the matte already takes is the recolour's; only the rest can be spill
    map.share[i] = Math.min(along, 1) * belongs * fade * (1 - alpha[i]!) * spill.amount;
  }
  return map;
}

/**
 * Finds the spill of a matte. Near the matte each pixel's colour is set on the way from the local colour of the
 * surroundings (the pixels further out) to the local colour of the piece (the pixels well inside): its place on that
 * way, 0..1, is its share; a colour off the way by more than the tolerance is something else. Only a and b of OKLab are
 * looked at: bounce on a dark floor is dark. Undefined when the matte selects nothing or everything. Lengths are scaled
 * by `scale`.
 */
export function findSpill(
  alpha: Float32Array,
  { a, b }: OklabPlanes,
  width: number,
  height: number,
  spill: Spill,
  scale: number,
): SpillMap | undefined {
  // only the neighbourhood of the matte can hold spill or show what its surroundings are
  const box = neighbourhood(alpha, width, height, spill.reachPx * scale * 2);
  if (!box) return undefined;
  const { x0, y0, w, h } = box;
  const cut = (plane: Float32Array) => {
    const out = new Float32Array(w * h);
    for (let y = 0; y < h; y++) out.set(plane.subarray((y + y0) * width + x0, (y + y0) * width + x0 + w), y * w);
    return out;
  };
  const part = spillWithin(cut(alpha), { a: cut(a), b: cut(b) }, w, h, spill, scale);
  if (!part) return undefined;
  const whole = (plane: Float32Array) => {
    const out = new Float32Array(width * height);
    for (let y = 0; y < h; y++) out.set(plane.subarray(y * w, (y + 1) * w), (y + y0) * width + x0);
    return out;
  };
  const share = whole(part.share);
  if (spill.within) {
    const cover = new Float32Array(width * height);
    shapeMatteInto(cover, width, height, spill.within, scale);
    for (let i = 0; i < share.length; i++) share[i] = share[i]! * cover[i]!;
  }
  return {
    share,
    pieceA: whole(part.pieceA),
    pieceB: whole(part.pieceB),
    surroundA: whole(part.surroundA),
    surroundB: whole(part.surroundB),
  };
}

/** The picture within `reach` of what is selected; undefined when nothing is. */
function neighbourhood(
  alpha: Float32Array,
  width: number,
  height: number,
  reach: number,
): { x0: number; y0: number; w: number; h: number } | undefined {
  let [x0, y0, x1, y1] = [width, height, -1, -1];
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++)
      if (alpha[y * width + x]! >= 0.5) {
        if (x < x0) x0 = x;
        if (x > x1) x1 = x;
        if (y < y0) y0 = y;
        y1 = y;
      }
  if (x1 < 0) return undefined;
  const r = Math.ceil(reach);
  x0 = Math.max(x0 - r, 0);
  y0 = Math.max(y0 - r, 0);
  return { x0, y0, w: Math.min(x1 + 1 + r, width) - x0, h: Math.min(y1 + 1 + r, height) - y0 };
}
