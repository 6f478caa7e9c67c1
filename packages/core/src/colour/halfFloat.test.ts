import { expect, it } from 'vitest';
import { floatFromHalf, halfFromFloat } from './halfFloat.ts';

// IEEE 754-2019, binary16: the examples of its table of encodings, worked by hand
it.each([
  [0, 0],
  [-0, 0x8000],
  [1, 0x3c00],
  [-2, 0xc000],
  [65504, 0x7bff],
  [65520, 0x7c00],
  [Infinity, 0x7c00],
  [2 ** -14, 0x0400],
  [2 ** -24, 0x0001],
  [2 ** -25, 0x0000],
  [2 ** -25 * 1.001, 0x0001],
  [1 + 2 ** -11, 0x3c00],
  [1 + 3 * 2 ** -11, 0x3c02],
  [1 / 3, 0x3555],
])('rounds %d to the half float %d', (value, bits) => expect(halfFromFloat(value)).toBe(bits));
it('keeps what is no number', () => expect(halfFromFloat(NaN) & 0x7fff).toBeGreaterThan(0x7c00));

it('every number of 16 bits comes back as it was', () => {
  for (let half = 0; half < 0x10000; half++) {
    const value = floatFromHalf(half);
    if (Number.isNaN(value)) expect((half & 0x7c00) === 0x7c00 && (half & 0x3ff) > 0).toBe(true);
    else expect(halfFromFloat(value)).toBe(half);
  }
});
