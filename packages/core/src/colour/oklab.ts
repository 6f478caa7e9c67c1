import { inverse, type Matrix3, type Triple, transform } from './matrix3.ts';

// Björn Ottosson, "A perceptual color space for image processing" (2020), the matrices as published for linear sRGB
// (revised 2021-01-25). The inverses are computed, not printed, so that a round trip is exact to double precision.

/** Cone-like response of linear BT.709 light. */
// prettier-ignore
export const LMS_FROM_LINEAR_709: Matrix3 = [
  0.4122214708, 0.5363325363, 0.0514459929,
  0.2119034982, 0.6806995451, 0.1073969566,
  0.0883024619, 0.2817188376, 0.6299787005,
];
/** OKLab of the cube roots of the cone response. */
// prettier-ignore
export const OKLAB_FROM_LMS_ROOT: Matrix3 = [
  0.2104542553,  0.793617785,  -0.0040720468,
  1.9779984951, -2.428592205,   0.4505937099,
  0.0259040371,  0.7827717662, -0.808675766,
];
export const LINEAR_709_FROM_LMS = inverse(LMS_FROM_LINEAR_709);
export const LMS_ROOT_FROM_OKLAB = inverse(OKLAB_FROM_LMS_ROOT);

/** OKLab: L 0..1, a and b about −0.4..0.4. */
export interface Oklab {
  L: number;
  a: number;
  b: number;
}

export function oklabFromLinear709(rgb: Triple): Oklab {
  const [l, m, s] = transform(LMS_FROM_LINEAR_709, rgb);
  const [L, a, b] = transform(OKLAB_FROM_LMS_ROOT, [Math.cbrt(l), Math.cbrt(m), Math.cbrt(s)]);
  return { L, a, b };
}

export function linear709FromOklab({ L, a, b }: Oklab): [number, number, number] {
  const [l, m, s] = transform(LMS_ROOT_FROM_OKLAB, [L, a, b]);
  return transform(LINEAR_709_FROM_LMS, [l ** 3, m ** 3, s ** 3]);
}

export interface Oklch {
  L: number;
  C: number;
  /** 0..360; 0 for a neutral. */
  hDeg: number;
}

export function oklchFromOklab({ L, a, b }: Oklab): Oklch {
  return { L, C: Math.hypot(a, b), hDeg: wrapDeg((Math.atan2(b, a) * 180) / Math.PI) };
}

export function oklabFromOklch({ L, C, hDeg }: Oklch): Oklab {
  const h = (hDeg * Math.PI) / 180;
  return { L, a: C * Math.cos(h), b: C * Math.sin(h) };
}

/** An angle brought to 0 ≤ x < 360. */
export const wrapDeg = (deg: number): number => ((deg % 360) + 360) % 360;
/** The signed turn from `from` to `to`, −180 < x ≤ 180. */
export const turnDeg = (from: number, to: number): number => 180 - wrapDeg(180 - (to - from));
