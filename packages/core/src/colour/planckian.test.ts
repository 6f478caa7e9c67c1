// Black bodies against CIE 15:2018 (illuminant A, 2856 K) and their slope in linear BT.709.
import { expect, it } from 'vitest';
import { correlatedKelvin, planckianChromaticity, planckianSlope } from './planckian.ts';
import { linear709FromXyz, xyzFromChromaticity } from './xyz.ts';

const light = (kelvin: number) => linear709FromXyz(xyzFromChromaticity(planckianChromaticity(kelvin)));

it('has illuminant A where CIE 15 has it: x 0.4476, y 0.4074', () => {
  const [x, y] = planckianChromaticity(2856);
  expect([Math.abs(x - 0.4476) < 0.001, Math.abs(y - 0.4074) < 0.001]).toEqual([true, true]);
});
it('goes on without a step where its pieces meet', () => {
  for (const kelvin of [2222, 4000]) {
    const [a, b] = [planckianChromaticity(kelvin - 0.01), planckianChromaticity(kelvin + 0.01)];
    expect(Math.hypot(a[0] - b[0], a[1] - b[1])).toBeLessThan(2e-4);
  }
});
it('finds a light’s temperature again to 2 %', () => {
  for (const kelvin of [2400, 3200, 5000, 6500, 9000])
    expect(Math.abs(correlatedKelvin(light(kelvin)) / kelvin - 1)).toBeLessThan(0.02);
});
it('leaves the invariant alone: between two near temperatures K·ln(R/G) + ln(B/G) stays', () => {
  for (const kelvin of [3000, 5000, 6500]) {
    const K = planckianSlope(light(kelvin));
    const I = ([r, g, b]: readonly number[]) => K * Math.log(r! / g!) + Math.log(b! / g!);
    const moved = Math.abs(Math.log(light(kelvin * 1.05)[2] / light(kelvin * 0.95)[2]));
    expect(Math.abs(I(light(kelvin * 1.05)) - I(light(kelvin * 0.95)))).toBeLessThan(0.03 * moved);
  }
  expect(planckianSlope([1, 1, 1])).toBeGreaterThan(1.5);
  expect(planckianSlope([1, 1, 1])).toBeLessThan(1.9);
});
