import { LookupTable } from './lookupTable.ts';
import { LMS_FROM_LINEAR_709 as M, OKLAB_FROM_LMS_ROOT as N } from './oklab.ts';

/** Cube root of 2^−40..2^4 by table: relative error under 2e-7 (tested); exact outside. */
export function cubeRootTable(): LookupTable {
  return new LookupTable(Math.cbrt, { minExponent: -40, maxExponent: 4, stepBits: 9 });
}

/** OKLab of a picture, one plane a channel, row by row. */
export interface OklabPlanes {
  L: Float32Array;
  a: Float32Array;
  b: Float32Array;
}

/** `oklabFromLinear709` over planes of equal length. `out` planes may be the inputs. */
export function oklabFromLinear709Into(out: OklabPlanes, r: Float32Array, g: Float32Array, b: Float32Array, root: LookupTable): void {
  const { L: outL, a: outA, b: outB } = out;
  for (let i = 0; i < r.length; i++) {
    const R = r[i]!;
    const G = g[i]!;
    const B = b[i]!;
    const l = root.at(M[0] * R + M[1] * G + M[2] * B);
    const m = root.at(M[3] * R + M[4] * G + M[5] * B);
    const s = root.at(M[6] * R + M[7] * G + M[8] * B);
    outL[i] = N[0] * l + N[1] * m + N[2] * s;
    outA[i] = N[3] * l + N[4] * m + N[5] * s;
    outB[i] = N[6] * l + N[7] * m + N[8] * s;
  }
}
