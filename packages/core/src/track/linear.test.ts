// Gaussian elimination on systems worked by hand and on random ones put back together.
import fc from 'fast-check';
import { expect, it } from 'vitest';
import { solveInPlace } from './linear.ts';

it('solves 2x + y − z = 8, −3x − y + 2z = −11, −2x + y + 2z = −3 by x = 2, y = 3, z = −1', () => {
  const b = Float64Array.of(8, -11, -3);
  expect(solveInPlace(Float64Array.of(2, 1, -1, -3, -1, 2, -2, 1, 2), b, 3)).toBe(true);
  [2, 3, -1].forEach((v, i) => expect(b[i]).toBeCloseTo(v, 12));
});
it('needs rows changed round when a pivot is 0', () => {
  const b = Float64Array.of(3, 5);
  expect(solveInPlace(Float64Array.of(0, 1, 2, 1), b, 2)).toBe(true);
  expect([...b]).toEqual([1, 3]);
});
it('takes the largest pivot: 1e-13·x + y = 1, x + y = 2 has x and y near 1', () => {
  const b = Float64Array.of(1, 2);
  expect(solveInPlace(Float64Array.of(1e-13, 1, 1, 1), b, 2)).toBe(true);
  [1, 1].forEach((v, i) => expect(b[i]).toBeCloseTo(v, 11));
});
it('says that a singular system is one', () => {
  expect(solveInPlace(Float64Array.of(1, 2, 2, 4), Float64Array.of(1, 2), 2)).toBe(false);
});
it('solves what it is given: A·x comes out as b', () => {
  const entry = fc.double({ min: -5, max: 5, noNaN: true });
  fc.assert(
    fc.property(fc.array(entry, { minLength: 30, maxLength: 30 }), (values) => {
      const a = Float64Array.from(values.slice(0, 25));
      // well away from singular
      for (let k = 0; k < 5; k++) a[k * 6] = a[k * 6]! + 30;
      const b = Float64Array.from(values.slice(25));
      const x = b.slice();
      expect(solveInPlace(a.slice(), x, 5)).toBe(true);
      for (let i = 0; i < 5; i++)
        expect([0, 1, 2, 3, 4].reduce((s, j) => s + a[i * 5 + j]! * x[j]!, 0)).toBeCloseTo(b[i]!, 9);
    }),
  );
});
