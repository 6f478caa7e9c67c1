import { expect, it } from 'vitest';
import { pickedSamples } from './pickedSamples.ts';

const [W, H] = [40, 30];
/** L tells the column, a the row, b both. */
const picture = {
  L: Float32Array.from({ length: W * H }, (_, i) => i % W),
  a: Float32Array.from({ length: W * H }, (_, i) => Math.floor(i / W)),
  b: Float32Array.from({ length: W * H }, (_, i) => i),
};
const at = (x0: number, y0: number, x1: number, y1: number, scale = 1) => {
  const samples = pickedSamples(picture, { width: W, height: H, scale }, { x0, y0, x1, y1 });
  for (const { L, a, b } of samples) expect(b).toBe(a * W + L);
  return {
    columns: [...new Set(samples.map((s) => s.L))],
    rows: [...new Set(samples.map((s) => s.a))],
    n: samples.length,
  };
};

it('spreads 25 samples over a rectangle, corner to corner, whichever way it was dragged', () => {
  const wanted = { columns: [4, 8, 12, 16, 20], rows: [2, 7, 12, 17, 22], n: 25 };
  expect(at(4, 2, 20, 22)).toEqual(wanted);
  expect(at(20, 22, 4, 2)).toEqual(wanted);
});
it('takes the 5 × 5 pixels round a point', () =>
  expect(at(10.6, 8.2, 10.6, 8.2)).toEqual({ columns: [8, 9, 10, 11, 12], rows: [6, 7, 8, 9, 10], n: 25 }));
it('reads a smaller picture at its own scale', () =>
  expect(at(20, 20, 20, 20, 0.5)).toEqual({ columns: [8, 9, 10, 11, 12], rows: [8, 9, 10, 11, 12], n: 25 }));
it('stays within the picture', () => {
  const { columns, rows } = at(-50, -50, -50, -50);
  expect([columns, rows]).toEqual([[0], [0]]);
  expect(at(39, 29, 90, 90).columns.every((x) => x <= 39)).toBe(true);
});
