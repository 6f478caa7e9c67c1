import { inverse, multiply, transform, type Matrix3, type Triple } from './matrix3.ts';
import { PRIMARIES_709, xyzFromChromaticity } from './xyz.ts';

/** Lights a requirement may be stated for. */
export const ILLUMINANTS = ['D65', 'D50'] as const;
export type Illuminant = (typeof ILLUMINANTS)[number];

/** XYZ of the white, Y = 1. D65 as BT.709 prints it; D50 (0.3457, 0.3585) as CIE 15:2018 Table 3 and ICC.1 round it. */
export const WHITE_XYZ: Record<Illuminant, Triple> = {
  D65: xyzFromChromaticity(PRIMARIES_709.white),
  D50: xyzFromChromaticity([0.3457, 0.3585]),
};

/** Bradford cone response: Lam (1985), as given in ICC.1:2022 Annex E. */
const BRADFORD: Matrix3 = [0.8951, 0.2664, -0.1614, -0.7502, 1.7135, 0.0367, 0.0389, -0.0685, 1.0296];

/**
 * The von Kries scaling in Bradford's cone space that carries XYZ seen under the white `from` to what looks alike under
 * `to`.
 */
export function adaptationMatrix(from: Triple, to: Triple): Matrix3 {
  const source = transform(BRADFORD, from);
  const target = transform(BRADFORD, to);
  const scale: Matrix3 = [target[0] / source[0], 0, 0, 0, target[1] / source[1], 0, 0, 0, target[2] / source[2]];
  return multiply(inverse(BRADFORD), multiply(scale, BRADFORD));
}

/** `adaptationMatrix` between two named illuminants. */
export const bradfordMatrix = (from: Illuminant, to: Illuminant): Matrix3 =>
  adaptationMatrix(WHITE_XYZ[from], WHITE_XYZ[to]);
