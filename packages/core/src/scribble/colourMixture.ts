import { seededRandom } from '../track/random.ts';

/** A density over OKLab: weighted normal distributions with full covariances. */
export interface ColourMixture {
  /** Per component: log of weight / √((2π)³ det Σ), the mean, and Σ⁻¹ as xx, xy, xz, yy, yz, zz. */
  components: {
    logScale: number;
    mean: readonly [number, number, number];
    inverse: readonly [number, number, number, number, number, number];
  }[];
}

/** Variance that every colour has at least, in OKLab: what noise leaves, and along lightness what shading does. */
const LEAST_VARIANCE = 0.012 ** 2;
const LEAST_LIGHTNESS_VARIANCE = 0.04 ** 2;
const ROUNDS = 12;
const LOG_2PI_3 = 3 * Math.log(2 * Math.PI);

/**
 * Fits a mixture of at most `most` normal distributions to colours (L, a, b, L, a, b …) by expectation–maximisation
 * (A. Dempster, N. Laird, D. Rubin 1977), started by k-means++ seeding (D. Arthur, S. Vassilvitskii 2007). Empty input
 * is refused.
 */
export function fitColourMixture(colours: Float64Array, most = 5, seed = 1): ColourMixture {
  const n = colours.length / 3;
  if (n === 0) throw new RangeError('a colour mixture needs at least one colour');
  const k = Math.max(Math.min(most, Math.floor(n / 12)), 1);
  const random = seededRandom(seed);
  const share = new Float64Array(n * k);
  nearestSeeds(colours, k, random).forEach((c, i) => (share[i * k + c] = 1));
  let mixture = maximised(colours, share, k);
  const logs = new Float64Array(k);
  for (let round = 0; round < ROUNDS; round++) {
    share.fill(0);
    for (let i = 0; i < n; i++) {
      let top = -Infinity;
      mixture.components.forEach((c, j) => {
        logs[j] = logOf(c, colours[3 * i]!, colours[3 * i + 1]!, colours[3 * i + 2]!);
        top = Math.max(top, logs[j]);
      });
      let sum = 0;
      for (let j = 0; j < mixture.components.length; j++) sum += Math.exp(logs[j]! - top);
      for (let j = 0; j < mixture.components.length; j++) share[i * k + j] = Math.exp(logs[j]! - top) / sum;
    }
    mixture = maximised(colours, share, k);
  }
  return mixture;
}

/** log p of a colour under the mixture. */
export function logDensity({ components }: ColourMixture, L: number, a: number, b: number): number {
  let top = -Infinity;
  let sum = 0;
  for (const c of components) {
    const log = logOf(c, L, a, b);
    if (log > top) {
      sum = sum * Math.exp(top - log) + 1;
      top = log;
    } else sum += Math.exp(log - top);
  }
  return top + Math.log(sum);
}

function logOf(
  { logScale, mean, inverse }: ColourMixture['components'][number],
  L: number,
  a: number,
  b: number,
): number {
  const x = L - mean[0];
  const y = a - mean[1];
  const z = b - mean[2];
  return (
    logScale -
    0.5 * (inverse[0] * x * x + inverse[3] * y * y + inverse[5] * z * z) -
    inverse[1] * x * y -
    inverse[2] * x * z -
    inverse[4] * y * z
  );
}

/** Which of k seeds, chosen far from one another, each colour is nearest to. */
function nearestSeeds(colours: Float64Array, k: number, random: () => number): Int32Array {
  const n = colours.length / 3;
  const nearest = new Float64Array(n).fill(Infinity);
  const of = new Int32Array(n);
  let seed = Math.floor(random() * n);
  for (let j = 0; j < k; j++) {
    let total = 0;
    for (let i = 0; i < n; i++) {
      const d =
        (colours[3 * i]! - colours[3 * seed]!) ** 2 +
        (colours[3 * i + 1]! - colours[3 * seed + 1]!) ** 2 +
        (colours[3 * i + 2]! - colours[3 * seed + 2]!) ** 2;
      if (d < nearest[i]!) [nearest[i], of[i]] = [d, j];
      total += nearest[i]!;
    }
    let left = random() * total;
    for (seed = 0; seed < n - 1; seed++) {
      left -= nearest[seed]!;
      if (left <= 0) break;
    }
  }
  return of;
}

/** The components that the given shares (n × k) make most likely; those without any share are left out. */
function maximised(colours: Float64Array, share: Float64Array, k: number): ColourMixture {
  const n = colours.length / 3;
  const components: ColourMixture['components'] = [];
  for (let j = 0; j < k; j++) {
    let w = 0;
    let mL = 0;
    let mA = 0;
    let mB = 0;
    for (let i = 0; i < n; i++) {
      const s = share[i * k + j]!;
      w += s;
      mL += s * colours[3 * i]!;
      mA += s * colours[3 * i + 1]!;
      mB += s * colours[3 * i + 2]!;
    }
    if (w < 1e-6) continue;
    [mL, mA, mB] = [mL / w, mA / w, mB / w];
    let xx = 0;
    let xy = 0;
    let xz = 0;
    let yy = 0;
    let yz = 0;
    let zz = 0;
    for (let i = 0; i < n; i++) {
      const s = share[i * k + j]! / w;
      const x = colours[3 * i]! - mL;
      const y = colours[3 * i + 1]! - mA;
      const z = colours[3 * i + 2]! - mB;
      xx += s * x * x;
      xy += s * x * y;
      xz += s * x * z;
      yy += s * y * y;
      yz += s * y * z;
      zz += s * z * z;
    }
    xx += LEAST_LIGHTNESS_VARIANCE;
    yy += LEAST_VARIANCE;
    zz += LEAST_VARIANCE;
    const det = xx * (yy * zz - yz * yz) - xy * (xy * zz - yz * xz) + xz * (xy * yz - yy * xz);
    components.push({
      logScale: Math.log(w / n) - 0.5 * (LOG_2PI_3 + Math.log(det)),
      mean: [mL, mA, mB],
      inverse: [
        (yy * zz - yz * yz) / det,
        (xz * yz - xy * zz) / det,
        (xy * yz - xz * yy) / det,
        (xx * zz - xz * xz) / det,
        (xy * xz - xx * yz) / det,
        (xx * yy - xy * xy) / det,
      ],
    });
  }
  return { components };
}
