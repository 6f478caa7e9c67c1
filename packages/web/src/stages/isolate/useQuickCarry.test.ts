import { expect, it } from 'vitest';
import { framesBeside } from './useQuickCarry.ts';

it('the frames beside one with strokes end with the shot, and before the next one with strokes', () => {
  const span = { from: 10, to: 40 };
  expect(framesBeside(20, 1, [20], span)).toEqual([22, 24]);
  expect(framesBeside(20, -1, [20], span)).toEqual([18, 16]);
  expect(framesBeside(13, -1, [13], span)).toEqual([11, 10]);
  expect(framesBeside(11, -1, [11], span)).toEqual([10]);
  expect(framesBeside(40, 1, [40], span)).toEqual([]);
  expect(framesBeside(20, 1, [20, 23], span)).toEqual([22]);
  expect(framesBeside(20, 1, [20, 22], span)).toEqual([]);
  expect(framesBeside(20, -1, [19, 20], span)).toEqual([]);
});
