import type { Triple } from './matrix3.ts';
import { bradfordMatrix, WHITE_XYZ, type Illuminant } from './whitePoint.ts';
import { transform } from './matrix3.ts';
import { linear709FromXyz, xyzFromLinear709 } from './xyz.ts';

/** CIELAB 1976, ISO/CIE 11664-4:2019. L* 0..100. */
export interface Lab {
  L: number;
  a: number;
  b: number;
}

// ISO/CIE 11664-4 formulas (4)–(6), the exact fractions.
const DELTA = 6 / 29;
const f = (t: number) => (t > DELTA ** 3 ? Math.cbrt(t) : t / (3 * DELTA ** 2) + 4 / 29);
const fInverse = (t: number) => (t > DELTA ? t ** 3 : 3 * DELTA ** 2 * (t - 4 / 29));

/** Lab of XYZ (Y of white = 1) relative to the white of `illuminant`. */
export function labFromXyz([X, Y, Z]: Triple, illuminant: Illuminant = 'D65'): Lab {
  const [Xn, Yn, Zn] = WHITE_XYZ[illuminant];
  const fy = f(Y / Yn);
  return { L: 116 * fy - 16, a: 500 * (f(X / Xn) - fy), b: 200 * (fy - f(Z / Zn)) };
}

/** XYZ (Y of white = 1) of Lab relative to the white of `illuminant`. */
export function xyzFromLab({ L, a, b }: Lab, illuminant: Illuminant = 'D65'): [number, number, number] {
  const [Xn, Yn, Zn] = WHITE_XYZ[illuminant];
  const fy = (L + 16) / 116;
  return [Xn * fInverse(fy + a / 500), Yn * fInverse(fy), Zn * fInverse(fy - b / 200)];
}

/** Lab (D65) of linear BT.709 light. */
export const labFromLinear709 = (rgb: Triple): Lab => labFromXyz(xyzFromLinear709(rgb));
/** Linear BT.709 light of Lab (D65). */
export const linear709FromLab = (lab: Lab): [number, number, number] => linear709FromXyz(xyzFromLab(lab));

/** A Lab value stated for one light, as Lab under D65: Bradford adaptation, as ICC practice does. */
export function d65LabFrom(lab: Lab, illuminant: Illuminant): Lab {
  if (illuminant === 'D65') return lab;
  return labFromXyz(transform(bradfordMatrix(illuminant, 'D65'), xyzFromLab(lab, illuminant)));
}

/** Chroma C*ab and hue angle h_ab in degrees 0..360 (0 for a neutral). */
export function lchFromLab({ L, a, b }: Lab): { L: number; C: number; hDeg: number } {
  const hDeg = (Math.atan2(b, a) * 180) / Math.PI;
  return { L, C: Math.hypot(a, b), hDeg: hDeg < 0 ? hDeg + 360 : hDeg };
}
