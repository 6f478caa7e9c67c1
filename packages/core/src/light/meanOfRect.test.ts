import { expect, it } from 'vitest';
import { meanOfRect } from './meanOfRect.ts';

const SIZE = { width: 8, height: 4 };
const light = (of: (x: number, y: number) => number) =>
  Float32Array.from({ length: 32 }, (_, i) => of(i % 8, Math.floor(i / 8)));
const planes = { r: light((x) => x), g: light((_x, y) => y), b: light(() => 5) };

it('is the mean of the pixels that the rectangle touches, whichever way it was drawn', () => {
  expect(meanOfRect(planes, SIZE, { x0: 2, y0: 0, x1: 6, y1: 4 }, 1)).toEqual([3.5, 1.5, 5]);
  expect(meanOfRect(planes, SIZE, { x0: 6, y0: 4, x1: 2, y1: 0 }, 1)).toEqual([3.5, 1.5, 5]);
});
it('is in full-resolution pixels, and cut to the picture', () => {
  expect(meanOfRect(planes, SIZE, { x0: 4, y0: 0, x1: 12, y1: 8 }, 0.5)).toEqual([3.5, 1.5, 5]);
  expect(meanOfRect(planes, SIZE, { x0: 6, y0: 2, x1: 90, y1: 90 }, 1)).toEqual([6.5, 2.5, 5]);
  expect(meanOfRect(planes, SIZE, { x0: 90, y0: 90, x1: 99, y1: 99 }, 1)).toEqual([7, 3, 5]);
});
it('is that of a small square round a click', () =>
  expect(meanOfRect(planes, SIZE, { x0: 40, y0: 20, x1: 40, y1: 20 }, 0.1)).toEqual([3.5, 1.5, 5]));
