// Chroma that an edge pixel has of its neighbours, told from its own.
import { XYZ_FROM_LINEAR_709 } from '../colour/xyz.ts';
import type { EdgeParts } from './edgeParts.ts';
import { SOLID, type MixedBand } from './mixedBand.ts';

const [, , , YR, YG, YB] = XYZ_FROM_LINEAR_709;

/**
 * The picture at the places of a band as it would be if no pixel had chroma of its neighbours, linear light, channels
 * side by side: 4:2:2 and 4:2:0 carry luma of each pixel, R′ − Y′ and B′ − Y′ (BT.709-6, item 3) of several at once.
 * Mixed places keep their luma and have the chroma of what they are mixed of, α·F + (1 − α)·B, but where that is not
 * known and where they show the piece alone. What is coded is taken to be the square root of light, which the curve of
 * BT.709 is near: with a display's power of 2.4 in its place edges came out the same to ΔE00 0.02 (docs/accuracy.md).
 */
export function unshared(
  { mixed, alpha }: MixedBand,
  seen: Float32Array,
  { piece, ground, known }: EdgeParts,
  [most0, most1, most2]: readonly [number, number, number],
): Float32Array {
  const out = seen.slice();
  for (let k = 0; k < mixed; k++) {
    const a = alpha[k]!;
    if (known[k] === 0 || a >= SOLID) continue;
    const at = 3 * k;
    const rest = 1 - a;
    const r = Math.sqrt(a * piece[at]! + rest * ground[at]!);
    const g = Math.sqrt(a * piece[at + 1]! + rest * ground[at + 1]!);
    const b = Math.sqrt(a * piece[at + 2]! + rest * ground[at + 2]!);
    const luma = YR * coded(seen[at]!) + YG * coded(seen[at + 1]!) + YB * coded(seen[at + 2]!);
    const off = luma - (YR * r + YG * g + YB * b);
    out[at] = lightOf(r + off, most0);
    out[at + 1] = lightOf(g + off, most1);
    out[at + 2] = lightOf(b + off, most2);
  }
  return out;
}
const coded = (light: number): number => Math.sqrt(Math.max(light, 0));
function lightOf(code: number, most: number): number {
  const v = Math.max(code, 0);
  return Math.min(v * v, most);
}
