import { tabulated, type Lookup } from './lookupTable.ts';
import { LMS_FROM_LINEAR_709 as M, OKLAB_FROM_LMS_ROOT as N } from './oklab.ts';

/** Cube root of 2^−40..2^4 by table: relative error under 2e-7 (tested); exact outside. */
export function cubeRootTable(): Lookup {
  return tabulated(Math.cbrt, { minExponent: -40, maxExponent: 4, stepBits: 9 });
}

/** OKLab of a picture, one plane a channel, row by row. */
export interface OklabPlanes {
  L: Float32Array;
  a: Float32Array;
  b: Float32Array;
}

/** `oklabFromLinear709` over planes of equal length. `out` planes may be the inputs. */
export function oklabFromLinear709Into(out: OklabPlanes, r: Float32Array, g: Float32Array, b: Float32Array, root: Lookup): void {
  const [m0, m1, m2, m3, m4, m5, m6, m7, m8] = M;
  const [n0, n1, n2, n3, n4, n5, n6, n7, n8] = N;
  const { L: outL, a: outA, b: outB } = out;
  for (let i = 0; i < r.length; i++) {
    const R = r[i]!;
    const G = g[i]!;
    const B = b[i]!;
    const l = root(m0 * R + m1 * G + m2 * B);
    const m = root(m3 * R + m4 * G + m5 * B);
    const s = root(m6 * R + m7 * G + m8 * B);
    outL[i] = n0 * l + n1 * m + n2 * s;
    outA[i] = n3 * l + n4 * m + n5 * s;
    outB[i] = n6 * l + n7 * m + n8 * s;
  }
}
