import { labFromLinear709, lchFromLab, type Lab } from '../colour/lab.ts';
import { turnDeg, wrapDeg } from '../colour/oklab.ts';
import type { Triple } from '../colour/matrix3.ts';
import type { LinearPlanes } from '../colour/planes.ts';

/** Lightness, chroma and hue (CIELAB, D65; degrees). */
export interface Lch {
  L: number;
  C: number;
  hDeg: number;
}

/** The colour of a piece on one frame. */
export interface Measurement {
  /** Pixels that were measured: α ≥ 0.9 and no channel clipped. */
  pixels: number;
  /** Share of the pixels with α ≥ 0.9 that are clipped, 0..1. */
  clippedShare: number;
  /** Mean linear BT.709 light, weighted by α. */
  meanLinear: [number, number, number];
  /** Lab (D65) of that mean: the piece's measured colour. */
  lab: Lab;
  /** The mean without the sheen on it, where sheen is told apart: the colour of its body. */
  body?: [number, number, number];
  median: Lch;
  p10: Lch;
  p90: Lch;
  /** Covariance of Lab, upper triangle: LL, La, Lb, aa, ab, bb. */
  covariance: [number, number, number, number, number, number];
}

/** α from which a pixel belongs to the piece and not to its edge. */
export const MEASURED_ALPHA = 0.9;
/** Percentiles and covariance are taken from at most this many pixels, evenly spread; the mean is over all. */
const SPREAD_SAMPLES = 2048;

/** Which pixels are clipped: one bit of truth a pixel, true where a channel sits at the end of its range. */
export type IsClipped = (index: number) => boolean;

/** How much of each pixel's luminance is sheen, and its light: linear BT.709, luminance 1. */
export interface SheenShown {
  luminance: Float32Array;
  light: Triple;
  /** The factor on it in the picture that is measured. */
  kept: number;
}

/** A matte's pixels, as they are measured. */
export interface PiecePixels {
  /** Indices of those with α ≥ 0.9, ascending, and of those of them that are not clipped. */
  solid: Uint32Array;
  unclipped: Uint32Array;
}
export function piecePixelsOf(alpha: Float32Array, isClipped: IsClipped): PiecePixels {
  const [solid, unclipped] = [new Uint32Array(alpha.length), new Uint32Array(alpha.length)];
  let [all, measured] = [0, 0];
  for (let i = 0; i < alpha.length; i++) {
    if (alpha[i]! < MEASURED_ALPHA) continue;
    solid[all++] = i;
    if (!isClipped(i)) unclipped[measured++] = i;
  }
  return { solid: solid.subarray(0, all), unclipped: unclipped.subarray(0, measured) };
}
/**
 * About `most` of a piece's pixels, evenly spread, for a measurement on the way; the same where there are no more, or
 * where none of those would be left that are not clipped.
 */
export function thinned({ solid, unclipped }: PiecePixels, most: number): PiecePixels {
  const step = Math.ceil(solid.length / most);
  if (step <= 1) return { solid, unclipped };
  const some = new Uint32Array(Math.ceil(solid.length / step));
  const someUnclipped = new Uint32Array(some.length);
  let n = 0;
  let at = 0;
  for (let k = 0; k < some.length; k++) {
    const i = solid[k * step]!;
    some[k] = i;
    while (at < unclipped.length && unclipped[at]! < i) at++;
    if (unclipped[at] === i) someUnclipped[n++] = i;
  }
  return n === 0 ? { solid, unclipped } : { solid: some, unclipped: someUnclipped.subarray(0, n) };
}

/** Measures the matted pixels of a picture; undefined where none can be measured. */
export const measurePiece = (
  picture: LinearPlanes,
  alpha: Float32Array,
  isClipped: IsClipped,
  sheen?: SheenShown,
): Measurement | undefined => measurePixels(picture, alpha, piecePixelsOf(alpha, isClipped), sheen);

/** The same, of pixels that are known already; of `solid` only how many there are. */
export function measurePixels(
  picture: LinearPlanes,
  alpha: Float32Array,
  { solid, unclipped }: { solid: { length: number }; unclipped: Uint32Array },
  sheen?: SheenShown,
): Measurement | undefined {
  const { r, g, b } = picture;
  const pixels = unclipped.length;
  if (pixels === 0) return undefined;
  let [weight, R, G, B, S] = [0, 0, 0, 0, 0];
  for (let k = 0; k < pixels; k++) {
    const i = unclipped[k]!;
    const a = alpha[i]!;
    weight += a;
    R += a * r[i]!;
    G += a * g[i]!;
    B += a * b[i]!;
    if (sheen) S += a * sheen.luminance[i]!;
  }
  const meanLinear: [number, number, number] = [R / weight, G / weight, B / weight];
  return {
    pixels,
    clippedShare: (solid.length - pixels) / solid.length,
    meanLinear,
    lab: labFromLinear709(meanLinear),
    ...(sheen && { body: withoutSheen(meanLinear, (sheen.kept * S) / weight, sheen.light) }),
    ...spreadOf(picture, unclipped),
  };
}

/** Light less so much of sheen. */
export const withoutSheen = ([r, g, b]: Triple, luminance: number, light: Triple): [number, number, number] => [
  r - luminance * light[0],
  g - luminance * light[1],
  b - luminance * light[2],
];

function spreadOf(
  { r, g, b }: LinearPlanes,
  pixels: Uint32Array,
): Pick<Measurement, 'median' | 'p10' | 'p90' | 'covariance'> {
  const step = Math.max(Math.ceil(pixels.length / SPREAD_SAMPLES), 1);
  const n = Math.ceil(pixels.length / step);
  const [L, a, B] = [new Float64Array(n), new Float64Array(n), new Float64Array(n)];
  const [C, turns] = [new Float64Array(n), new Float64Array(n)];
  for (let k = 0; k < n; k++) {
    const i = pixels[k * step]!;
    const lab = labFromLinear709([r[i]!, g[i]!, b[i]!]);
    L[k] = lab.L;
    a[k] = lab.a;
    B[k] = lab.b;
    C[k] = Math.hypot(lab.a, lab.b);
  }
  const mean = { L: meanOf(L), a: meanOf(a), b: meanOf(B) };
  const covariance = [
    meanProduct(L, mean.L, L, mean.L),
    meanProduct(L, mean.L, a, mean.a),
    meanProduct(L, mean.L, B, mean.b),
    meanProduct(a, mean.a, a, mean.a),
    meanProduct(a, mean.a, B, mean.b),
    meanProduct(B, mean.b, B, mean.b),
  ] satisfies Measurement['covariance'];
  // hue percentiles are taken as turns from the mean hue, so that they do not break at 0°
  const meanHue = lchFromLab(mean).hDeg;
  for (let k = 0; k < n; k++) turns[k] = turnDeg(meanHue, lchFromLab({ L: L[k]!, a: a[k]!, b: B[k]! }).hDeg);
  for (const values of [L, C, turns]) values.sort();
  const at = (share: number): Lch => {
    const i = Math.round(share * (n - 1));
    return { L: L[i]!, C: C[i]!, hDeg: wrapDeg(meanHue + turns[i]!) };
  };
  return { median: at(0.5), p10: at(0.1), p90: at(0.9), covariance };
}

function meanOf(values: Float64Array): number {
  let sum = 0;
  for (let k = 0; k < values.length; k++) sum += values[k]!;
  return sum / values.length;
}
/** The mean of the product of two values less their means: their covariance. */
function meanProduct(p: Float64Array, meanP: number, q: Float64Array, meanQ: number): number {
  let sum = 0;
  for (let k = 0; k < p.length; k++) sum += (p[k]! - meanP) * (q[k]! - meanQ);
  return sum / p.length;
}
