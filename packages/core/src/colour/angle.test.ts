import { expect, it } from 'vitest';
import { fastAngleDeg } from './angle.ts';

it('is atan2 to 2e-6 of a degree all the way round, at any length', () => {
  for (let deg = -180; deg <= 180; deg += 0.037)
    for (const length of [1e-6, 0.13, 40]) {
      const [x, y] = [length * Math.cos((deg * Math.PI) / 180), length * Math.sin((deg * Math.PI) / 180)];
      expect(Math.abs(fastAngleDeg(y, x) - (Math.atan2(y, x) * 180) / Math.PI)).toBeLessThan(2e-6);
    }
});
it('keeps the quadrants on the axes, and has 0 for no direction', () => {
  expect([
    fastAngleDeg(0, 1),
    fastAngleDeg(1, 0),
    fastAngleDeg(0, -1),
    fastAngleDeg(-1, 0),
    fastAngleDeg(0, 0),
  ]).toEqual([0, 90, 180, -90, 0]);
});
