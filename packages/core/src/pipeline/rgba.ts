// Between the pixels of a canvas, four bytes each, and planes of codes.
import { BLOCK, blockOf, PLANES } from '../kernels/blocks.ts';
import { kernels, type Kernels } from '../kernels/module.ts';
import type { CodePicture } from './picture.ts';

const CHANNELS = ['r', 'g', 'b'] as const;
/** Planes of the kernels' memory: one of pixels, three of codes. */
const PIXELS = blockOf(0);
const CODES = [blockOf(1), blockOf(2), blockOf(3)] as const;

type BytePicture = CodePicture & Record<(typeof CHANNELS)[number], Uint8Array>;
/** Planar codes from 8-bit RGBA as a canvas gives it; alpha is dropped. */
export function pictureFromRgba(rgba: Uint8ClampedArray | Uint8Array, width: number, height: number): CodePicture {
  const n = width * height;
  const picture = { width, height, r: new Uint8Array(n), g: new Uint8Array(n), b: new Uint8Array(n) };
  const own = kernels();
  if (own) splitByKernel(own, picture, rgba);
  else splitByPixels(picture, rgba);
  return picture;
}
export function splitByPixels({ r, g, b }: BytePicture, rgba: ArrayLike<number>): void {
  for (let i = 0, j = 0; i < r.length; i++, j += 4) {
    r[i] = rgba[j]!;
    g[i] = rgba[j + 1]!;
    b[i] = rgba[j + 2]!;
  }
}
function splitByKernel(own: Kernels, picture: BytePicture, rgba: Uint8ClampedArray | Uint8Array): void {
  const bytes = new Uint8Array(own.samples(blockOf(PLANES)).buffer);
  const { length } = picture.r;
  for (let start = 0; start < length; start += BLOCK) {
    const n = Math.min(BLOCK, length - start);
    bytes.set(rgba.subarray(4 * start, 4 * (start + n)), PIXELS);
    own.split((n + 15) & ~15, PIXELS, ...CODES);
    for (let k = 0; k < 3; k++) picture[CHANNELS[k]!].set(bytes.subarray(CODES[k], CODES[k]! + n), start);
  }
}

/** The opaque pixels of a picture of integer codes, each by way of a table with a byte for every code. */
export function rgbaOfCodes(picture: CodePicture, table: Uint8ClampedArray): Uint8ClampedArray<ArrayBuffer> {
  const pixels = new Uint32Array(picture.width * picture.height);
  const own = kernels();
  if (own) joinByKernel(own, pixels, picture, table);
  else joinByPixels(pixels, picture, table);
  return new Uint8ClampedArray(pixels.buffer);
}
/** Red, green and blue of a pixel as they lie in the memory of a picture: every browser's is little-endian. */
export function joinByPixels(pixels: Uint32Array, { r, g, b }: CodePicture, table: Uint8ClampedArray): void {
  for (let i = 0; i < pixels.length; i++)
    pixels[i] = 0xff000000 | (table[b[i]!]! << 16) | (table[g[i]!]! << 8) | table[r[i]!]!;
}
function joinByKernel(own: Kernels, pixels: Uint32Array, picture: CodePicture, table: Uint8ClampedArray): void {
  const { buffer } = own.samples(blockOf(PLANES));
  const at = own.table('screen', table);
  const { BYTES_PER_ELEMENT: size } = picture.r;
  const join = size === 1 ? own.join8 : own.join16;
  const bytes = new Uint8Array(buffer);
  const joined = new Uint32Array(buffer, PIXELS, BLOCK);
  for (let start = 0; start < pixels.length; start += BLOCK) {
    const n = Math.min(BLOCK, pixels.length - start);
    for (let k = 0; k < 3; k++) {
      const plane = picture[CHANNELS[k]!];
      bytes.set(new Uint8Array(plane.buffer, plane.byteOffset + size * start, size * n), CODES[k]);
    }
    join(n, ...CODES, at, PIXELS);
    pixels.set(joined.subarray(0, n), start);
  }
}
