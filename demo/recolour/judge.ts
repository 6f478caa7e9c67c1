// How near a recoloured picture comes to the true one.
import {
  ciede2000,
  clampToCodes,
  labFromLinear709,
  type Lab,
  type LinearPlanes,
} from '../../packages/core/src/index.ts';

const clamp = clampToCodes('rec709');
const labAt = ({ r, g, b }: LinearPlanes, i: number): Lab => labFromLinear709(clamp([r[i]!, g[i]!, b[i]!]));

/** Mean and 95th percentile of ΔE00 over the pixels whose α is wanted. */
export function errorsOf(
  pairs: readonly { result: LinearPlanes; truth: LinearPlanes; alpha: Float32Array }[],
  isWanted: (alpha: number) => boolean,
): { mean: number; p95: number } {
  const all: number[] = [];
  for (const { result, truth, alpha } of pairs)
    for (let i = 0; i < alpha.length; i++)
      if (isWanted(alpha[i]!)) all.push(ciede2000(labAt(result, i), labAt(truth, i)));
  const sorted = Float64Array.from(all).sort();
  return { mean: sorted.reduce((a, b) => a + b, 0) / sorted.length, p95: sorted[Math.floor(0.95 * sorted.length)]! };
}

/**
 * Structural similarity of L* (Z. Wang et al., "Image Quality Assessment", 2004: 8 × 8 windows, K₁ = 0.01, K₂ = 0.03,
 * the range 100), over windows that lie in the matte.
 */
export function ssimOf(result: LinearPlanes, truth: LinearPlanes, alpha: Float32Array, width: number): number {
  const height = alpha.length / width;
  const [c1, c2] = [(0.01 * 100) ** 2, (0.03 * 100) ** 2];
  const L = (of: LinearPlanes) => Float32Array.from(alpha, (a, i) => (a >= 0.9 ? labAt(of, i).L : 0));
  const [p, q] = [L(result), L(truth)];
  let [sum, n] = [0, 0];
  for (let y = 0; y + 8 <= height; y += 4)
    for (let x = 0; x + 8 <= width; x += 4) {
      let [sp, sq, pp, qq, pq, inside] = [0, 0, 0, 0, 0, 0];
      for (let v = y; v < y + 8; v++)
        for (let u = x; u < x + 8; u++) {
          const i = v * width + u;
          if (alpha[i]! < 0.9) continue;
          inside++;
          sp += p[i]!;
          sq += q[i]!;
          pp += p[i]! ** 2;
          qq += q[i]! ** 2;
          pq += p[i]! * q[i]!;
        }
      if (inside < 64) continue;
      const [mp, mq] = [sp / 64, sq / 64];
      const [vp, vq, cov] = [pp / 64 - mp * mp, qq / 64 - mq * mq, pq / 64 - mp * mq];
      sum += ((2 * mp * mq + c1) * (2 * cov + c2)) / ((mp * mp + mq * mq + c1) * (vp + vq + c2));
      n++;
    }
  return n === 0 ? NaN : sum / n;
}

/**
 * Standard deviation of grain in L*, a*, b* together (root of the sum of squares), of what a picture differs from the
 * clean one by (J. Immerkær, "Fast Noise Variance Estimation", 1996), where the nine pixels are the piece alone.
 */
export function grainOf(result: LinearPlanes, truth: LinearPlanes, alpha: Float32Array, width: number): number {
  const height = alpha.length / width;
  const off = [new Float32Array(alpha.length), new Float32Array(alpha.length), new Float32Array(alpha.length)] as const;
  alpha.forEach((a, i) => {
    if (a === 0) return;
    const [p, q] = [labAt(result, i), labAt(truth, i)];
    off[0][i] = p.L - q.L;
    off[1][i] = p.a - q.a;
    off[2][i] = p.b - q.b;
  });
  const sums = [0, 0, 0];
  let n = 0;
  for (let y = 1; y < height - 1; y++)
    for (let x = 1; x < width - 1; x++) {
      const i = y * width + x;
      const nine = [-width - 1, -width, -width + 1, -1, 0, 1, width - 1, width, width + 1].map((d) => i + d);
      if (nine.some((j) => alpha[j]! < 0.98)) continue;
      n++;
      off.forEach((plane, c) => {
        sums[c] = sums[c]! + Math.abs(nine.reduce((sum, j, k) => sum + LAPLACIANS[k]! * plane[j]!, 0));
      });
    }
  return (Math.sqrt(Math.PI / 2) / 6 / n) * Math.hypot(...sums);
}
const LAPLACIANS = [1, -2, 1, -2, 4, -2, 1, -2, 1];
