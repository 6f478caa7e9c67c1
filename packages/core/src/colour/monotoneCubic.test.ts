import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { monotoneCubic, monotoneSlopes } from './monotoneCubic.ts';

/**
 * RPN 14, the radiochemical data of F. N. Fritsch and R. E. Carlson, "Monotone Piecewise Cubic Interpolation" (SIAM J.
 * Numer. Anal. 17, 1980), table 1. The values are from memory.
 */
const RPN14 = {
  x: [7.99, 8.09, 8.19, 8.7, 9.2, 10, 12, 15, 20],
  f: [0, 2.76429e-5, 4.37498e-2, 0.169183, 0.469428, 0.94374, 0.998636, 0.999919, 0.999994],
};
const steps = (from: number, to: number, n: number) =>
  Array.from({ length: n + 1 }, (_, i) => from + ((to - from) * i) / n);

describe('a monotone cubic', () => {
  it('goes through RPN 14 and never falls between, where a cubic with its plain slopes overshoots', () => {
    const curve = monotoneCubic(RPN14.x, RPN14.f);
    RPN14.x.forEach((x, i) => expect(curve(x)).toBeCloseTo(RPN14.f[i]!, 12));
    const values = steps(7.99, 20, 4000).map(curve);
    values.slice(1).forEach((v, i) => expect(v).toBeGreaterThanOrEqual(values[i]! - 1e-12));
    expect(Math.max(...values)).toBeLessThanOrEqual(0.999994);
  });
  it('has slopes inside the circle of radius 3 about every chord', () => {
    const slopes = monotoneSlopes(RPN14.x, RPN14.f);
    for (let i = 0; i + 1 < RPN14.x.length; i++) {
      const chord = (RPN14.f[i + 1]! - RPN14.f[i]!) / (RPN14.x[i + 1]! - RPN14.x[i]!);
      expect(Math.hypot(slopes[i]!, slopes[i + 1]!)).toBeLessThanOrEqual(3 * chord + 1e-12);
    }
  });
  it('is a straight line through points on one, and goes on as it ends', () => {
    const line = monotoneCubic([0, 0.2, 1], [1, 1.4, 3]);
    for (const x of [-1, 0, 0.1, 0.7, 1, 2]) expect(line(x)).toBeCloseTo(1 + 2 * x, 12);
  });
  it('rises wherever its points do', () =>
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.double({ min: 0.01, max: 1, noNaN: true }), fc.double({ min: 0, max: 1, noNaN: true })), {
          minLength: 2,
          maxLength: 8,
        }),
        (gaps) => {
          let [x, y] = [0, 0];
          const points = gaps.map(([dx, dy]) => [(x += dx), (y += dy)] as const);
          const curve = monotoneCubic(
            points.map((p) => p[0]),
            points.map((p) => p[1]),
          );
          const values = steps(points[0]![0], x, 200).map(curve);
          return values.slice(1).every((v, i) => v >= values[i]! - 1e-9);
        },
      ),
    ));
  it('is refused with one point, or points that do not rise', () => {
    expect(() => monotoneCubic([0], [0])).toThrow('two points, not 1');
    expect(() => monotoneCubic([0, 1, 1], [0, 1, 2])).toThrow('point 3 of a curve');
  });
});
