import { expect, it } from 'vitest';
import { daylightChromaticity } from './daylight.ts';

it('has the daylights of CIE 15:2018 Table T.3 on its locus', () => {
  // D50, D55, D65, D75 with their temperatures after the 1968 revision of c₂ (5003, 5503, 6504, 7504 K); printed to 4
  // digits
  for (const [kelvin, x, y] of [
    [5003, 0.3457, 0.3585],
    [5503, 0.3324, 0.3474],
    [6504, 0.3127, 0.329],
    [7504, 0.299, 0.3149],
  ] as const) {
    const [dx, dy] = daylightChromaticity(kelvin);
    expect(Math.abs(dx - x)).toBeLessThanOrEqual(0.00015);
    expect(Math.abs(dy - y)).toBeLessThanOrEqual(0.00025);
  }
});

it('reaches from 4000 to 25000 K, one curve up to 7000 K and another above', () => {
  // the cubics of CIE 15:2018, 4.1.2, worked by hand at t = 1000 / T
  const x = (a: number, b: number, c: number, d: number, t: number) => ((a * t + b) * t + c) * t + d;
  expect(daylightChromaticity(4000)[0]).toBeCloseTo(x(-4.607, 2.9678, 0.09911, 0.244063, 0.25), 9);
  expect(daylightChromaticity(7000)[0]).toBeCloseTo(x(-4.607, 2.9678, 0.09911, 0.244063, 1 / 7), 9);
  expect(daylightChromaticity(25_000)[0]).toBeCloseTo(x(-2.0064, 1.9018, 0.24748, 0.23704, 0.04), 9);
  for (const kelvin of [3999, 25_001, Number.NaN])
    expect(() => daylightChromaticity(kelvin)).toThrow(`${kelvin} K is outside the daylight locus, 4000..25000 K`);
});
