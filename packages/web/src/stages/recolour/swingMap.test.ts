import { expect, it } from 'vitest';
import { NEUTRAL_FINER, NEUTRAL_SHIFT, oklabFromLinear709, oklchFromOklab } from '@mellow/core';
import { hueMap, matchedOklab, shiftTowards, SIZE, swungTo } from './swingMap.ts';

const red = oklabFromLinear709([0.4, 0.02, 0.05]);

it('a drag to a place is the shift that takes the colour there', () => {
  const target = { a: -0.08, b: 0.05 };
  const found = shiftTowards(red, NEUTRAL_SHIFT, target);
  const there = swungTo(red, found);
  expect([there.a, there.b]).toEqual([expect.closeTo(target.a, 3), expect.closeTo(target.b, 3)]);
});
it('density and exposure do not move the far end: they are not set here', () =>
  expect(swungTo(red, { ...NEUTRAL_SHIFT, density: 1, exposureStops: 2 } as never)).toEqual(
    swungTo(red, NEUTRAL_SHIFT),
  ));
it('starts from what a match has made of the colour', () => {
  expect(matchedOklab(red, { long: 1, middle: 1, short: 1 }, NEUTRAL_FINER)).toEqual({
    L: expect.closeTo(red.L, 9),
    a: expect.closeTo(red.a, 9),
    b: expect.closeTo(red.b, 9),
  });
  // the same factor on all responses is light: OKLab goes by its cube root
  const lighter = matchedOklab(red, { long: 8, middle: 8, short: 8 }, NEUTRAL_FINER);
  expect([lighter.L / red.L, lighter.a / red.a]).toEqual([expect.closeTo(2, 6), expect.closeTo(2, 6)]);
});
it('starts from where a bend has pulled the colour', () => {
  const pulled = { ...NEUTRAL_FINER.bend.first, on: true, a: red.a, b: red.b, da: 0.02, db: -0.03 };
  const bend = { ...NEUTRAL_FINER.bend, on: true, first: pulled };
  const base = matchedOklab(red, { long: 1, middle: 1, short: 1 }, { ...NEUTRAL_FINER, bend });
  expect([base.a - red.a, base.b - red.b]).toEqual([expect.closeTo(0.02, 5), expect.closeTo(-0.03, 5)]);
});
it('keeps the turns there are, and goes the short way on', () => {
  const now = { ...NEUTRAL_SHIFT, hueDeg: 725 };
  const { hDeg, C } = oklchFromOklab(red);
  const at = (deg: number) => ({ a: C * Math.cos((deg * Math.PI) / 180), b: C * Math.sin((deg * Math.PI) / 180) });
  expect(shiftTowards(red, now, at(hDeg + 10)).hueDeg).toBeCloseTo(730, 5);
  expect(shiftTowards(red, now, at(hDeg - 10)).hueDeg).toBeCloseTo(710, 5);
});
it('saturation ends at four times, and is not endless for a grey', () =>
  expect(shiftTowards({ L: 0.5, a: 0, b: 0 }, NEUTRAL_SHIFT, { a: 0.2, b: 0 }).saturation).toBe(4));
it('the map is grey in its middle and clear where the screen has no such colour', () => {
  const map = hueMap(0.6);
  const pixel = (x: number, y: number) => [...map.subarray(4 * (y * SIZE + x), 4 * (y * SIZE + x) + 4)];
  const [r, g, b, opacity] = pixel(SIZE / 2, SIZE / 2);
  expect(Math.max(r!, g!, b!) - Math.min(r!, g!, b!)).toBeLessThan(5);
  expect([opacity, pixel(0, 0)[3], pixel(SIZE - 1, SIZE / 2)[3]]).toEqual([130, 0, 0]);
});
