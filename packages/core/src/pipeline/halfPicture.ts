// Floats as bytes: a picture of half floats twice as high, its upper half the high bytes, its lower half the low ones.
// So a browser, which reads pictures of 8 bits only, has them whole.
import { finiteHalf, floatFromHalf, halfFromFloat } from '../colour/halfFloat.ts';
import { planeOf } from '../colour/planes.ts';
import type { CodePicture, CodePlane } from './picture.ts';

let fromHalf: Float32Array | undefined;
/** Every half float; what is infinite is the greatest, what is no number 0. */
function halfTable(): Float32Array {
  if (fromHalf) return fromHalf;
  fromHalf = new Float32Array(65536);
  for (let half = 0; half < 65536; half++) fromHalf[half] = finiteHalf(floatFromHalf(half));
  return fromHalf;
}

/** R, G, B bytes of a picture of floats, pixel by pixel: width × 2·height of them. Rounded to half floats. */
export function bytesFromFloats({ width, height, r, g, b }: CodePicture): Uint8Array {
  const n = width * height;
  const bytes = new Uint8Array(6 * n);
  for (const [c, plane] of [r, g, b].entries())
    for (let i = 0; i < n; i++) {
      const half = halfFromFloat(plane[i]!);
      bytes[3 * i + c] = half >> 8;
      bytes[3 * (i + n) + c] = half & 0xff;
    }
  return bytes;
}

/** The picture of floats that comes of its bytes. */
export function roundedToHalves({ width, height, r, g, b }: CodePicture): CodePicture {
  const table = halfTable();
  const rounded = (plane: CodePlane) => planeOf(plane.length, (i) => table[halfFromFloat(plane[i]!)]!);
  return { width, height, r: rounded(r), g: rounded(g), b: rounded(b) };
}

/** The picture of floats again, from the RGBA of a canvas of width × `tall`, twice the picture's height. */
export function floatsFromRgba(rgba: Uint8ClampedArray | Uint8Array, width: number, tall: number): CodePicture {
  const height = tall / 2;
  if (!Number.isInteger(height)) throw new RangeError(`a picture of bytes is twice as high as its floats, not ${tall}`);
  const table = halfTable();
  const n = width * height;
  const picture = { width, height, r: new Float32Array(n), g: new Float32Array(n), b: new Float32Array(n) };
  for (let i = 0; i < n; i++) {
    const high = 4 * i;
    const low = 4 * (i + n);
    picture.r[i] = table[(rgba[high]! << 8) | rgba[low]!]!;
    picture.g[i] = table[(rgba[high + 1]! << 8) | rgba[low + 1]!]!;
    picture.b[i] = table[(rgba[high + 2]! << 8) | rgba[low + 2]!]!;
  }
  return picture;
}
