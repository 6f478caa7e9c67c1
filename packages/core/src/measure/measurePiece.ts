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

/** Measures the matted pixels of a picture; undefined where none can be measured. */
export function measurePiece(
  picture: LinearPlanes,
  alpha: Float32Array,
  isClipped: IsClipped,
  sheen?: SheenShown,
): Measurement | undefined {
  const { r, g, b } = picture;
  let [weight, R, G, B, S] = [0, 0, 0, 0, 0];
  let pixels = 0;
  let clipped = 0;
  for (let i = 0; i < alpha.length; i++) {
    const a = alpha[i]!;
    if (a < MEASURED_ALPHA) continue;
    if (isClipped(i)) {
      clipped++;
      continue;
    }
    pixels++;
    weight += a;
    R += a * r[i]!;
    G += a * g[i]!;
    B += a * b[i]!;
    if (sheen) S += a * sheen.luminance[i]!;
  }
  if (pixels === 0) return undefined;
  const meanLinear: [number, number, number] = [R / weight, G / weight, B / weight];
  return {
    pixels,
    clippedShare: clipped / (pixels + clipped),
    meanLinear,
    lab: labFromLinear709(meanLinear),
    ...(sheen && { body: withoutSheen(meanLinear, (sheen.kept * S) / weight, sheen.light) }),
    ...spreadOf(picture, alpha, isClipped, pixels),
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
  alpha: Float32Array,
  isClipped: IsClipped,
  pixels: number,
): Pick<Measurement, 'median' | 'p10' | 'p90' | 'covariance'> {
  const step = Math.max(Math.ceil(pixels / SPREAD_SAMPLES), 1);
  const labs: Lab[] = [];
  for (let i = 0, seen = 0; i < alpha.length; i++) {
    if (alpha[i]! < MEASURED_ALPHA || isClipped(i)) continue;
    if (seen++ % step === 0) labs.push(labFromLinear709([r[i]!, g[i]!, b[i]!]));
  }
  const sum = (of: (lab: Lab) => number) => labs.reduce((total, lab) => total + of(lab), 0) / labs.length;
  const mean = { L: sum((x) => x.L), a: sum((x) => x.a), b: sum((x) => x.b) };
  const cov = (p: keyof Lab, q: keyof Lab) => sum((x) => (x[p] - mean[p]) * (x[q] - mean[q]));
  const lch = labs.map(lchFromLab);
  // hue percentiles are taken as turns from the mean hue, so that they do not break at 0°
  const meanHue = lchFromLab(mean).hDeg;
  const sorted = (of: (x: Lch) => number) => lch.map(of).sort((x, y) => x - y);
  const Ls = sorted((x) => x.L);
  const Cs = sorted((x) => x.C);
  const turns = sorted((x) => turnDeg(meanHue, x.hDeg));
  const at = (share: number): Lch => {
    const i = Math.round(share * (labs.length - 1));
    return { L: Ls[i]!, C: Cs[i]!, hDeg: wrapDeg(meanHue + turns[i]!) };
  };
  return {
    median: at(0.5),
    p10: at(0.1),
    p90: at(0.9),
    covariance: [cov('L', 'L'), cov('L', 'a'), cov('L', 'b'), cov('a', 'a'), cov('a', 'b'), cov('b', 'b')],
  };
}
