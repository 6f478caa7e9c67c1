import { expect, it } from 'vitest';
import { ciede2000 } from '../colour/ciede2000.ts';
import { drift, judge, shotColour, spread } from './judgement.ts';

const lab = (L: number, a = 0, b = 0) => ({ L, a, b });

it('matches up to the tolerance, is close up to twice that, off above', () => {
  expect([0, 2, 2.01, 4, 4.01].map((d) => judge(d, 2))).toEqual(['matches', 'matches', 'close', 'close', 'off']);
});
it('spread is the largest difference between any two, wherever they stand', () => {
  const [dark, middle, light] = [lab(30), lab(50, 3), lab(70, 1, 4)];
  const far = ciede2000(dark, light);
  for (const order of [
    [dark, middle, light],
    [middle, light, dark],
    [light, dark, middle],
  ])
    expect(spread(order)).toBeCloseTo(far, 12);
  expect([spread([]), spread([dark]), spread([dark, dark])]).toEqual([0, 0, 0]);
});
it('a shot’s colour is the mean of its frames in linear light; drift is how far a frame lies from it', () => {
  const frame = (v: number, L: number) => ({ meanLinear: [v, v, v] as const, lab: lab(L) });
  // linear 0.18 is L* 49.5 (CIE 15:2018, 8.2.1: 116 · 0.18^(1/3) − 16)
  const colour = shotColour([frame(0.06, 29), frame(0.3, 62)])!;
  expect(colour.L).toBeCloseTo(116 * Math.cbrt(0.18) - 16, 6);
  expect([colour.a, colour.b].map((v) => Math.abs(v) < 1e-3)).toEqual([true, true]);
  expect(drift([frame(0.18, 49.5), frame(0.18, 60)])).toBeCloseTo(ciede2000(lab(60), shotColour([frame(0.18, 0)])!), 9);
  expect([shotColour([]), drift([])]).toEqual([undefined, 0]);
});
