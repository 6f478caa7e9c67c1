import { expect, it } from 'vitest';
import { boxedMatte, wholeMatte } from './boxedMatte.ts';

const SIZE = { width: 7, height: 5 };
/** Nothing but at these places. */
const matte = (...at: [x: number, y: number, alpha: number][]) => {
  const plane = new Float32Array(SIZE.width * SIZE.height);
  for (const [x, y, alpha] of at) plane[y * SIZE.width + x] = alpha;
  return plane;
};

it.each([
  ['nothing', matte(), 0],
  ['a corner', matte([6, 4, 0.25]), 1],
  ['the least there is', matte([2, 1, 2 ** -149]), 1],
  ['some of it', matte([1, 1, 0.5], [3, 2, 1], [2, 3, 1e-7]), 9],
  ['all', new Float32Array(35).map((_, i) => (i + 1) / 36), 35],
])('keeps no more than is not 0, and gives it back to the bit: %s', (_, alpha, kept) => {
  const boxed = boxedMatte(alpha, SIZE);
  expect(boxed.alpha).toHaveLength(kept);
  expect(wholeMatte(boxed, SIZE)).toEqual(alpha);
});
