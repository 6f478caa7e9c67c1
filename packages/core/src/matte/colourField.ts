// The local colour of a part of the picture, known everywhere from where the part is seen.
import { gaussianInPlace } from './gaussian.ts';

/** Planes cut down by a whole factor: what is smooth need not be known in every pixel. */
export interface Grid {
  factor: number;
  /** Of the picture, pixels, and of the grid, samples: each the mean of `factor`² pixels. */
  width: number;
  height: number;
  across: number;
  down: number;
}
/** A colour in each sample of a grid: OKLab a, b. */
export interface ColourField {
  a: Float32Array;
  b: Float32Array;
}

/**
 * Rounds of reweighting: each looks away from colours far from the last round's mean. A colour this far from it (OKLab
 * a, b) has half a say; the distance shrinks from round to round, so that a first mean gone astray can still come back.
 */
const HALF_SAY = [0.08, 0.05, 0.03, 0.02];

/**
 * Local mean of a, b where the weight is, seen with a Gaussian of σ samples: normalised convolution (H. Knutsson, C.-F.
 * Westin 1993); if `robust`, by iterated Cauchy weights (P. J. Huber, "Robust Statistics", 1981), so that a strip of
 * something else beside the floor does not tint what is taken for the floor. Where none of it is near, the mean of all.
 */
export function colourField(
  a: Float32Array,
  b: Float32Array,
  weight: Float32Array,
  grid: Grid,
  sigma: number,
  robust: boolean,
): ColourField {
  const coarse = coarseMeans(a, b, weight, grid);
  let say = coarse.weight;
  let mean: ColourField = coarse;
  for (const halfSay of robust ? HALF_SAY : HALF_SAY.slice(0, 1)) {
    const total = say.slice();
    gaussianInPlace(total, grid.across, grid.down, sigma);
    mean = {
      a: blurredMean(coarse.a, say, total, grid, sigma),
      b: blurredMean(coarse.b, say, total, grid, sigma),
    };
    if (robust) say = cauchy(coarse, mean, halfSay);
  }
  return mean;
}

/** Means of a, b by the weight, and the weight there is, of each sample of the grid. */
interface Coarse extends ColourField {
  weight: Float32Array;
}
function coarseMeans(
  a: Float32Array,
  b: Float32Array,
  weight: Float32Array,
  { factor, width, height, across, down }: Grid,
): Coarse {
  const n = across * down;
  const out: Coarse = { a: new Float32Array(n), b: new Float32Array(n), weight: new Float32Array(n) };
  for (let y = 0; y < height; y++) {
    const row = Math.floor(y / factor) * across;
    for (let j = row, x = 0; x < width; j++) {
      const end = Math.min(x + factor, width);
      for (; x < end; x++) {
        const i = y * width + x;
        const w = weight[i]!;
        out.a[j]! += a[i]! * w;
        out.b[j]! += b[i]! * w;
        out.weight[j]! += w;
      }
    }
  }
  for (let j = 0; j < n; j++) {
    const total = out.weight[j]!;
    out.a[j] = total > 0 ? out.a[j]! / total : 0;
    out.b[j] = total > 0 ? out.b[j]! / total : 0;
  }
  return out;
}

/** A plane's local mean by weights whose own blur is `total`; where there are none near, the mean of all. */
function blurredMean(
  plane: Float32Array,
  say: Float32Array,
  total: Float32Array,
  { across, down }: Grid,
  sigma: number,
): Float32Array {
  const overall = weightedMean(plane, say);
  const out = new Float32Array(plane.length);
  for (let i = 0; i < out.length; i++) out[i] = plane[i]! * say[i]!;
  gaussianInPlace(out, across, down, sigma);
  for (let i = 0; i < out.length; i++) out[i] = total[i]! > 1e-4 ? out[i]! / total[i]! : overall;
  return out;
}

/** Weights that look away from colours far from a mean. */
function cauchy({ a, b, weight }: Coarse, mean: ColourField, halfSay: number): Float32Array {
  const out = new Float32Array(weight.length);
  const unit = halfSay ** 2;
  for (let i = 0; i < out.length; i++) {
    const offA = a[i]! - mean.a[i]!;
    const offB = b[i]! - mean.b[i]!;
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

/**
 * A plane between the middles of four samples, bilinear: `top` and `bottom` are where their rows begin, `left` and
 * `right` their columns, `fu` and `fv` how far to the right and down it is, 0..1.
 */
export function between(
  plane: Float32Array,
  top: number,
  bottom: number,
  left: number,
  right: number,
  fu: number,
  fv: number,
): number {
  const above = plane[top + left]! + (plane[top + right]! - plane[top + left]!) * fu;
  const below = plane[bottom + left]! + (plane[bottom + right]! - plane[bottom + left]!) * fu;
  return above + (below - above) * fv;
}
