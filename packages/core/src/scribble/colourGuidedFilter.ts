import type { OklabPlanes } from '../colour/oklabPlanes.ts';
import { boxMean } from '../matte/boxMean.ts';

/**
 * The guided filter with a colour guide, as the planes that give α = aL·L + aA·a + aB·b + c at every pixel: K. He, J.
 * Sun, X. Tang, "Guided Image Filtering" (PAMI 2013), section 3.5, the means of the coefficients already taken. Made on
 * a smaller picture, the planes may be enlarged and laid over the large guide (He & Sun, "Fast Guided Filter", 2015).
 * `radius` in samples; `epsilon` is the variance of the guide below which it counts as smooth.
 */
export function colourGuide(
  plane: Float32Array,
  { L, a, b }: OklabPlanes,
  width: number,
  height: number,
  radius: number,
  epsilon: number,
): { aL: Float32Array; aA: Float32Array; aB: Float32Array; c: Float32Array } {
  const n = plane.length;
  const product = new Float32Array(n);
  const mean = (of: Float32Array) => boxMean(of, width, height, radius);
  const meanOf = (p: Float32Array, q: Float32Array) => {
    for (let i = 0; i < n; i++) product[i] = p[i]! * q[i]!;
    return mean(product);
  };
  const [mL, mA, mB, mP] = [mean(L), mean(a), mean(b), mean(plane)];
  const [pL, pA, pB] = [meanOf(L, plane), meanOf(a, plane), meanOf(b, plane)];
  const [LL, LA, LB, AA, AB, BB] = [meanOf(L, L), meanOf(L, a), meanOf(L, b), meanOf(a, a), meanOf(a, b), meanOf(b, b)];
  const [aL, aA, aB, c] = [pL, pA, pB, new Float32Array(n)];
  for (let i = 0; i < n; i++) {
    const l = mL[i]!;
    const x = mA[i]!;
    const y = mB[i]!;
    const p = mP[i]!;
    const xx = LL[i]! - l * l + epsilon;
    const xy = LA[i]! - l * x;
    const xz = LB[i]! - l * y;
    const yy = AA[i]! - x * x + epsilon;
    const yz = AB[i]! - x * y;
    const zz = BB[i]! - y * y + epsilon;
    const u = pL[i]! - l * p;
    const v = pA[i]! - x * p;
    const w = pB[i]! - y * p;
    const i00 = yy * zz - yz * yz;
    const i01 = xz * yz - xy * zz;
    const i02 = xy * yz - xz * yy;
    const i11 = xx * zz - xz * xz;
    const i12 = xy * xz - xx * yz;
    const i22 = xx * yy - xy * xy;
    const det = xx * i00 + xy * i01 + xz * i02;
    aL[i] = (i00 * u + i01 * v + i02 * w) / det;
    aA[i] = (i01 * u + i11 * v + i12 * w) / det;
    aB[i] = (i02 * u + i12 * v + i22 * w) / det;
    c[i] = p - aL[i]! * l - aA[i]! * x - aB[i]! * y;
  }
  return { aL: mean(aL), aA: mean(aA), aB: mean(aB), c: mean(c) };
}
