// Linear light as its luminance and two differences from it, as video carries it: Y, R − Y, B − Y.
import { XYZ_FROM_LINEAR_709 } from '../colour/xyz.ts';

const [, , , YR, YG, YB] = XYZ_FROM_LINEAR_709;

/** Three channels side by side, from R, G, B to Y, R − Y, B − Y. */
export function apartInPlace(colours: Float32Array): void {
  for (let c = 0; c < colours.length; c += 3) {
    const r = colours[c]!;
    const b = colours[c + 2]!;
    const y = YR * r + YG * colours[c + 1]! + YB * b;
    colours[c] = y;
    colours[c + 1] = r - y;
    colours[c + 2] = b - y;
  }
}

/** And back, each channel kept from 0 to `most`. */
export function togetherInPlace(colours: Float32Array, most: readonly [number, number, number]): void {
  const [most0, most1, most2] = most;
  for (let c = 0; c < colours.length; c += 3) {
    const y = colours[c]!;
    const r = y + colours[c + 1]!;
    const b = y + colours[c + 2]!;
    const g = (y - YR * r - YB * b) / YG;
    colours[c] = Math.min(Math.max(r, 0), most0);
    colours[c + 1] = Math.min(Math.max(g, 0), most1);
    colours[c + 2] = Math.min(Math.max(b, 0), most2);
  }
}
