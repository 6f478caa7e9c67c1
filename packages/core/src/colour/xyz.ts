import type { Primaries } from './encodings/record.ts';
import { inverse, transform, type Matrix3, type Triple } from './matrix3.ts';

/** CIE 1931 2° chromaticities, Rec. ITU-R BT.709-6 item 1.3 and 1.4 (D65 white as printed there). */
export const PRIMARIES_709: Primaries = {
  red: [0.64, 0.33],
  green: [0.3, 0.6],
  blue: [0.15, 0.06],
  white: [0.3127, 0.329],
};

/** XYZ of a chromaticity at luminance 1. */
export function xyzFromChromaticity([x, y]: readonly [number, number]): [number, number, number] {
  return [x / y, 1, (1 - x - y) / y];
}

/**
 * XYZ of linear light of these primaries. SMPTE RP 177-1993: columns are the primaries, scaled so that (1,1,1) is the
 * white.
 */
export function normalisedPrimaryMatrix(p: Primaries): Matrix3 {
  const [r, g, b] = [xyzFromChromaticity(p.red), xyzFromChromaticity(p.green), xyzFromChromaticity(p.blue)];
  const columns: Matrix3 = [r[0], g[0], b[0], r[1], g[1], b[1], r[2], g[2], b[2]];
  const [sr, sg, sb] = transform(inverse(columns), xyzFromChromaticity(p.white));
  return [r[0] * sr, g[0] * sg, b[0] * sb, r[1] * sr, g[1] * sg, b[1] * sb, r[2] * sr, g[2] * sg, b[2] * sb];
}

export const XYZ_FROM_LINEAR_709 = normalisedPrimaryMatrix(PRIMARIES_709);
export const LINEAR_709_FROM_XYZ = inverse(XYZ_FROM_LINEAR_709);

/** CIE XYZ (Y of white = 1, D65) of linear BT.709 light. */
export const xyzFromLinear709 = (rgb: Triple): [number, number, number] => transform(XYZ_FROM_LINEAR_709, rgb);
/** Luminance Y of linear BT.709 light. */
export const luminanceOf = (rgb: Triple): number => xyzFromLinear709(rgb)[1];
/** Linear BT.709 light of CIE XYZ (D65); negative outside the gamut. */
export const linear709FromXyz = (xyz: Triple): [number, number, number] => transform(LINEAR_709_FROM_XYZ, xyz);
