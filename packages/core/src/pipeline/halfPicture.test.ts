import { expect, it } from 'vitest';
import { bytesFromFloats, floatsFromRgba } from './halfPicture.ts';

/** As a canvas gives the bytes of a picture back. */
function rgbaOf(rgb: Uint8Array): Uint8ClampedArray {
  const rgba = new Uint8ClampedArray((rgb.length / 3) * 4).fill(255);
  for (let i = 0; i < rgb.length / 3; i++) for (let c = 0; c < 3; c++) rgba[4 * i + c] = rgb[3 * i + c]!;
  return rgba;
}
const through = (values: readonly number[]) => {
  const plane = Float32Array.from(values);
  const picture = { width: plane.length / 2, height: 2, r: plane, g: plane.map((v) => -v), b: plane.map((v) => v / 2) };
  const bytes = bytesFromFloats(picture);
  expect(bytes).toHaveLength(6 * plane.length);
  return floatsFromRgba(rgbaOf(bytes), picture.width, 4);
};

it('what a half float holds comes back as it is, past 0 and 1 and below 8 bits', () => {
  const values = [0, 1, -0.5, 2.5, 65504, 2 ** -14, 2 ** -24, 0.18017578125];
  const { r, g, b, width, height } = through(values);
  expect([width, height]).toEqual([4, 2]);
  expect([...r]).toEqual(values);
  expect([...g]).toEqual(values.map((v) => -v));
  expect(b[3]).toBe(1.25);
});
it('others are rounded to one, within a part in two thousand', () => {
  const values = [0.1, 0.2, 1 / 3, 0.7, 1.9, 12.3, 0.001, 300.7];
  through(values).r.forEach((v, i) => expect(Math.abs(v / values[i]! - 1)).toBeLessThan(2 ** -11));
});
it('what is no number is black, and what is infinite the greatest there is', () => {
  expect([...through([NaN, Infinity, -Infinity, 70_000]).r]).toEqual([0, 65504, -65504, 65504]);
});
it('refuses a picture of bytes that is no two halves', () => {
  expect(() => floatsFromRgba(new Uint8ClampedArray(12), 1, 3)).toThrow(RangeError);
});
