// What the screen shows, pixel by pixel. Expected codes from IEC 61966-2-1 and ITU-R BT.1886, worked by hand.
import Color from 'colorjs.io';
import { expect, it } from 'vitest';
import {
  croppedPicture,
  cutOutInPlace,
  difference,
  greyOnScreen,
  markNearInPlace,
  onScreen,
  scaledPicture,
  tintInPlace,
} from './screen.ts';
import type { Picture } from './frameProtocol.ts';

const codes = (...pixels: [number, number, number][]) => ({
  width: pixels.length,
  height: 1,
  r: Uint8Array.from(pixels, (p) => p[0]),
  g: Uint8Array.from(pixels, (p) => p[1]),
  b: Uint8Array.from(pixels, (p) => p[2]),
});
const codesOf = (plane: Uint16Array) => ({ r: plane, g: plane, b: plane });
const picture = (...pixels: [number, number, number][]): Picture => ({
  width: pixels.length,
  height: 1,
  rgba: Uint8ClampedArray.from(pixels.flatMap((p) => [...p, 255])),
});
const pixelsOf = ({ rgba }: Picture) =>
  Array.from({ length: rgba.length / 4 }, (_, i) => [...rgba.subarray(4 * i, 4 * i + 4)]);

it('sRGB codes stay as they are', () => {
  expect(pixelsOf(onScreen(codes([0, 128, 255], [1, 2, 3]), 'srgb'))).toEqual([
    [0, 128, 255, 255],
    [1, 2, 3, 255],
  ]);
});
it('Rec.709 codes are shown by the light of a BT.1886 display: code 128 is 0.5020^2.4 = 0.1911, sRGB code 121', () =>
  expect(pixelsOf(onScreen(codes([128, 0, 255]), 'rec709'))).toEqual([[121, 0, 255, 255]]));
it('brighter by a stop is twice the light, of codes of any kind', () => {
  // 0.1911 × 2 = 0.3822 is sRGB code 166; half light and a stop less 0.25, code 137
  expect(pixelsOf(onScreen(codes([128, 0, 250]), 'rec709', 1))).toEqual([[166, 0, 255, 255]]);
  expect(pixelsOf(onScreen(codes([128, 0, 255]), 'linear709', -1))).toEqual([[137, 0, 188, 255]]);
});
it('codes of 16 bits are looked up as those of 8 are: 32896 is 128 × 257', () => {
  const wide = (...values: number[]) => ({ width: 3, height: 1, ...codesOf(Uint16Array.from(values)) });
  expect(pixelsOf(onScreen(wide(32_896, 0, 65_535), 'rec709')).map(([v]) => v)).toEqual([121, 0, 255]);
});
it('floats past white are white, and are seen two stops darker', () => {
  const plane = (v: number) => Float32Array.of(v);
  const bright = { width: 1, height: 1, r: plane(4), g: plane(2), b: plane(-1) };
  expect(pixelsOf(onScreen(bright, 'linear709'))).toEqual([[255, 255, 0, 255]]);
  expect(pixelsOf(onScreen(bright, 'linear709', -2))).toEqual([[255, 188, 0, 255]]);
});
it('linear codes are encoded: half light is sRGB code 188', () =>
  expect(pixelsOf(onScreen(codes([128, 0, 255]), 'linear709'))).toEqual([[188, 0, 255, 255]]));
it('Display P3 is turned to the screen’s primaries: greys stay, P3 red is clipped sRGB red', () => {
  const [grey, red] = pixelsOf(onScreen(codes([128, 128, 128], [255, 0, 0]), 'display-p3'));
  expect(grey).toEqual([128, 128, 128, 255]);
  expect(red).toEqual([255, 0, 0, 255]);
  // the colour library colorjs.io as the reference
  const reference = new Color('p3', [200 / 255, 100 / 255, 50 / 255])
    .to('srgb')
    .coords.map((v) => Math.round((v ?? 0) * 255));
  const [orange] = pixelsOf(onScreen(codes([200, 100, 50]), 'display-p3'));
  expect(orange).toEqual([...reference, 255]);
});
it('a matte is grey from black to white', () =>
  expect(pixelsOf(greyOnScreen(Float32Array.of(0, 0.2, 1), 3, 1))).toEqual([
    [0, 0, 0, 255],
    [51, 51, 51, 255],
    [255, 255, 255, 255],
  ]));
it('a tint is laid over by α × strength and leaves the rest exactly', () => {
  const shown = picture([10, 20, 30], [100, 100, 100]);
  tintInPlace(shown, Float32Array.of(0, 1), [200, 0, 100], 0.5);
  expect(pixelsOf(shown)).toEqual([
    [10, 20, 30, 255],
    [150, 50, 100, 255],
  ]);
});
it.each([
  ['grey', 119],
  ['black', 0],
  ['white', 255],
] as const)('a cut-out lies on %s', (ground, code) => {
  const shown = picture([10, 20, 30], [40, 50, 60]);
  cutOutInPlace(shown, Float32Array.of(1, 0), ground);
  expect(pixelsOf(shown)).toEqual([
    [10, 20, 30, 255],
    [code, code, code, 255],
  ]);
});
it('a difference is four times as strong, and clips', () =>
  expect(pixelsOf(difference(picture([10, 100, 0]), picture([15, 90, 200])))).toEqual([[20, 40, 255, 255]]));
it('pixels near the place pointed at in the key field stand out', () => {
  const shown = picture([100, 100, 100], [100, 100, 100]);
  markNearInPlace(shown, Float32Array.of(0.1, 0.1), Float32Array.of(0.05, 0.07), { a: 0.105, b: 0.05 });
  expect(pixelsOf(shown).map((p) => p[0])).toEqual([255, 35]);
});
it('a crop keeps its pixels in place', () => {
  const whole: Picture = { width: 3, height: 2, rgba: Uint8ClampedArray.from({ length: 24 }, (_, i) => i) };
  expect([...croppedPicture(whole, { x0: 1, y0: 0, x1: 2, y1: 2 }).rgba]).toEqual([4, 5, 6, 7, 16, 17, 18, 19]);
});

it('a smaller picture has the mean of the pixels that each of its own stands for', () => {
  const row = picture([0, 0, 0], [100, 0, 0], [10, 20, 30], [30, 40, 50]);
  expect(pixelsOf(scaledPicture(row, 2))).toEqual([
    [50, 0, 0, 255],
    [20, 30, 40, 255],
  ]);
  expect(scaledPicture(row, 9)).toEqual(row);
});
