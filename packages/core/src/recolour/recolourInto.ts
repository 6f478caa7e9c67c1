import type { Lookup } from '../colour/lookupTable.ts';
import type { LinearPlanes } from '../colour/planes.ts';
import type { Program } from './program.ts';

/**
 * `picture += (recoloured(picture) − picture) · α · strength`, in linear light, in place; pixels where α is 0 are not
 * read or written. `root` is `cubeRootTable()`.
 *
 * The result is written as the gained pixel plus the *change* that the move makes to the cone response, both cubes
 * from the same tabulated root: with no move the change is exactly nothing. Straight back-conversion would leave the
 * table's 2e-7 in channels that are 0, which a display power law (infinite slope at black) blows up to visible codes.
 */
export function recolourInto(picture: LinearPlanes, alpha: Float32Array, program: Program, root: Lookup): void {
  const { toLms: A, between: B, fromLms: C, gain, strength } = program;
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
