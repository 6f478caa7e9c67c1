import { blockOf, byBlocks } from '../kernels/blocks.ts';
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

/** Samples taken at once: the three cone planes of a run stay in the processor's nearest cache. */
const RUN = 2048;

/** What the kernel reads. */
export const OKLAB_MATRICES: readonly number[] = [...M, ...N];

/** `oklabFromLinear709` over planes of equal length, within 2e-6 (tested). `out` planes may be the inputs. */
export function oklabFromLinear709Into(
  out: OklabPlanes,
  r: Float32Array,
  g: Float32Array,
  b: Float32Array,
  root: Lookup,
): void {
  const isDone = byBlocks(
    [r, g, b],
    [
      [3, out.L],
      [4, out.a],
      [5, out.b],
    ],
    ({ oklab, floats }, n) =>
      oklab(n, blockOf(0), blockOf(1), blockOf(2), blockOf(3), blockOf(4), blockOf(5), floats(OKLAB_MATRICES)),
  );
  if (!isDone) oklabByTable(out, r, g, b, root);
}

/** The same by a table of cube roots. */
export function oklabByTable(out: OklabPlanes, r: Float32Array, g: Float32Array, b: Float32Array, root: Lookup): void {
  const [m0, m1, m2, m3, m4, m5, m6, m7, m8] = M;
  const [n0, n1, n2, n3, n4, n5, n6, n7, n8] = N;
  const { L: outL, a: outA, b: outB } = out;
  const cone = [0, 1, 2].map(() => new Float32Array(RUN));
  const rooted = [0, 1, 2].map(() => new Float32Array(RUN));
  const [l, m, s] = cone as [Float32Array, Float32Array, Float32Array];
  const [l_, m_, s_] = rooted as [Float32Array, Float32Array, Float32Array];
  for (let start = 0; start < r.length; start += RUN) {
    const n = Math.min(RUN, r.length - start);
    for (let k = 0; k < n; k++) {
      const R = r[start + k]!;
      const G = g[start + k]!;
      const B = b[start + k]!;
      l[k] = m0 * R + m1 * G + m2 * B;
      m[k] = m3 * R + m4 * G + m5 * B;
      s[k] = m6 * R + m7 * G + m8 * B;
    }
    root.into(l_, l);
    root.into(m_, m);
    root.into(s_, s);
    for (let k = 0; k < n; k++) {
      const L = l_[k]!;
      const M_ = m_[k]!;
      const S = s_[k]!;
      outL[start + k] = n0 * L + n1 * M_ + n2 * S;
      outA[start + k] = n3 * L + n4 * M_ + n5 * S;
      outB[start + k] = n6 * L + n7 * M_ + n8 * S;
    }
  }
}
