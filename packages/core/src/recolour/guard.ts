import { pastEnds, type Encoding } from '../colour/encoding.ts';
import { LINEAR_709_FROM_LMS, LMS_ROOT_FROM_OKLAB } from '../colour/oklab.ts';

/** Halvings when the boundary is looked for: to a thousandth of the chroma. */
const HALVINGS = 10;

/**
 * The guard on OKLab in place: chroma past `knee` (0..1) of what the encoding can hold at that lightness and hue is
 * pressed into what is left, C = Cmax·(k + (1−k)·tanh((C/Cmax − k)/(1−k))). Hue and lightness stay.
 */
export function guardOf(encoding: Encoding, knee: number): (lab: Float64Array) => void {
  const isPast = pastEnds(encoding, 1e-4);
  const M = LMS_ROOT_FROM_OKLAB;
  const N = LINEAR_709_FROM_LMS;
  const isOut = (L: number, a: number, b: number) => {
    const l = (M[0] * L + M[1] * a + M[2] * b) ** 3;
    const m = (M[3] * L + M[4] * a + M[5] * b) ** 3;
    const s = (M[6] * L + M[7] * a + M[8] * b) ** 3;
    return isPast(N[0] * l + N[1] * m + N[2] * s, N[3] * l + N[4] * m + N[5] * s, N[6] * l + N[7] * m + N[8] * s);
  };
  const rest = Math.max(1 - knee, 1e-6);
  return (lab) => {
    const L = lab[0]!;
    const a = lab[1]!;
    const b = lab[2]!;
    // most colours lie well within: one look is enough
    if (!isOut(L, a / Math.max(knee, 0.01), b / Math.max(knee, 0.01))) return;
    let low = 0;
    let high = 1 / Math.max(knee, 0.01);
    // is the grey itself past the ends, there is no chroma to be had
    for (let i = 0; i < HALVINGS; i++) {
      const half = (low + high) / 2;
      if (isOut(L, half * a, half * b)) high = half;
      else low = half;
    }
    // `low` is the most chroma over the colour's own
    const share = low > 0 ? 1 / low : Infinity;
    if (share <= knee) return;
    const factor = low * (knee + rest * Math.tanh((share - knee) / rest));
    lab[1] = a * factor;
    lab[2] = b * factor;
  };
}
