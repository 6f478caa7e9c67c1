import { IDENTITY, inverse, multiply, transform, type Matrix3, type Triple } from './matrix3.ts';
import { LINEAR_709_FROM_XYZ, XYZ_FROM_LINEAR_709 } from './xyz.ts';

/**
 * The cone response of CAT16: C. Li et al., "Comprehensive color solutions: CAM16, CAT16, and CAM16-UCS" (2017), M16.
 */
export const CAT16: Matrix3 = [
  0.401288, 0.650173, -0.051461, -0.250268, 1.204414, 0.045854, -0.002079, 0.048952, 0.953127,
];

const CAT16_FROM_LINEAR_709 = multiply(CAT16, XYZ_FROM_LINEAR_709);
const LINEAR_709_FROM_CAT16 = multiply(LINEAR_709_FROM_XYZ, inverse(CAT16));

/** CAT16 cone response of linear BT.709 light: (1, 1, 1) gives that of D65. */
export const cat16FromLinear709 = (rgb: Triple): [number, number, number] => transform(CAT16_FROM_LINEAR_709, rgb);
export const linear709FromCat16 = (cone: Triple): [number, number, number] => transform(LINEAR_709_FROM_CAT16, cone);

/** Factors on the three cone responses, as a matrix on linear BT.709: the von Kries form. */
export function gainMatrix([long, middle, short]: Triple): Matrix3 {
  if (long === 1 && middle === 1 && short === 1) return IDENTITY;
  return multiply(LINEAR_709_FROM_CAT16, multiply([long, 0, 0, 0, middle, 0, 0, 0, short], CAT16_FROM_LINEAR_709));
}

/** The factors that take one colour to another, linear BT.709; a response of nothing stays. */
export function gainBetween(from: Triple, to: Triple): [number, number, number] {
  const [a, b] = [cat16FromLinear709(from), cat16FromLinear709(to)];
  const ratio = (i: 0 | 1 | 2) => (a[i] > 1e-6 && b[i] > 0 ? b[i] / a[i] : 1);
  return [ratio(0), ratio(1), ratio(2)];
}
