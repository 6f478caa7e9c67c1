import type { Lookup } from '../colour/lookupTable.ts';
import { multiply, type Matrix3 } from '../colour/matrix3.ts';
import { LINEAR_709_FROM_LMS, LMS_FROM_LINEAR_709, LMS_ROOT_FROM_OKLAB, OKLAB_FROM_LMS_ROOT } from '../colour/oklab.ts';
import { gainFromDensity, gainFromStops, type Shift } from './shift.ts';

/** Linear light, one plane a channel. */
export interface LinearPlanes {
  r: Float32Array;
  g: Float32Array;
  b: Float32Array;
}

const scaled = (m: Matrix3, k: number): Matrix3 => m.map((v) => v * k) as unknown as Matrix3;

/**
 * A shift is linear between the cube roots of the cone response, so hue and saturation become one 3×3 matrix there,
 * and exposure and density a gain at either end.
 */
function matrices(shift: Shift): { toLms: Matrix3; between: Matrix3; fromLms: Matrix3; gain: number } {
  const turn = (shift.hueDeg * Math.PI) / 180;
  const cos = Math.cos(turn) * shift.saturation;
  const sin = Math.sin(turn) * shift.saturation;
  const move: Matrix3 = [1, 0, 0, 0, cos, -sin, 0, sin, cos];
  const exposure = gainFromStops(shift.exposureStops);
  const density = gainFromDensity(shift.density);
  return {
    toLms: scaled(LMS_FROM_LINEAR_709, exposure),
    between: multiply(LMS_ROOT_FROM_OKLAB, multiply(move, OKLAB_FROM_LMS_ROOT)),
    fromLms: scaled(LINEAR_709_FROM_LMS, density),
    gain: exposure * density,
  };
}

/**
 * `picture += (shifted(picture) − picture) · α · strength`, in linear light, in place; pixels where α is 0 are not
 * read or written. `root` is `cubeRootTable()`.
 *
 * The result is written as the gained pixel plus the *change* that the move makes to the cone response, both cubes
 * from the same tabulated root: with no move the change is exactly nothing. Straight back-conversion would leave the
 * table's 2e-7 in channels that are 0, which a display power law (infinite slope at black) blows up to visible codes.
 */
export function recolourInto(
  picture: LinearPlanes,
  alpha: Float32Array,
  strength: number,
  shift: Shift,
  root: Lookup,
): void {
  const { toLms: A, between: B, fromLms: C, gain } = matrices(shift);
  const { r, g, b } = picture;
  for (let i = 0; i < alpha.length; i++) {
    const weight = alpha[i]! * strength;
    if (weight === 0) continue;
    const R = r[i]!;
    const G = g[i]!;
    const Bl = b[i]!;
    const l = root(A[0] * R + A[1] * G + A[2] * Bl);
    const m = root(A[3] * R + A[4] * G + A[5] * Bl);
    const s = root(A[6] * R + A[7] * G + A[8] * Bl);
    const l2 = B[0] * l + B[1] * m + B[2] * s;
    const m2 = B[3] * l + B[4] * m + B[5] * s;
    const s2 = B[6] * l + B[7] * m + B[8] * s;
    const dl = l2 * l2 * l2 - l * l * l;
    const dm = m2 * m2 * m2 - m * m * m;
    const ds = s2 * s2 * s2 - s * s * s;
    r[i] = R + (gain * R + C[0] * dl + C[1] * dm + C[2] * ds - R) * weight;
    g[i] = G + (gain * G + C[3] * dl + C[4] * dm + C[5] * ds - G) * weight;
    b[i] = Bl + (gain * Bl + C[6] * dl + C[7] * dm + C[8] * ds - Bl) * weight;
  }
}
