import { expect, it } from 'vitest';
import type { RangeKey } from '@mellow/core';
import { moved } from './keyGrips.ts';

const w = { on: true, lo: 0, hi: 1, softLo: 0.1, softHi: 0.1 };
const key: RangeKey = {
  hue: { ...w, lo: 350, hi: 380, softLo: 10, softHi: 10 },
  chroma: { ...w, lo: 0.05, hi: 0.2 },
  lightness: w,
};

it('moves a hue edge the short way, across red', () => {
  expect(moved(key, 'hueHi', { C: 0.1, hDeg: 40 }).hue).toMatchObject({ lo: 350, hi: 400 });
  expect(moved(key, 'hueLo', { C: 0.1, hDeg: 5 }).hue).toMatchObject({ lo: 5, hi: 20 });
  expect(moved(key, 'hueLo', { C: 0.1, hDeg: 330 }).hue).toMatchObject({ lo: 330, hi: 380 });
});
it('never turns a core inside out and never gives a margin below 0', () => {
  expect(moved(key, 'chromaLo', { C: 0.3, hDeg: 0 }).chroma.lo).toBeLessThan(0.2);
  expect(moved(key, 'chromaHi', { C: 0, hDeg: 0 }).chroma.hi).toBeGreaterThan(0.05);
  expect(moved(key, 'softHi', { C: 0.1, hDeg: 15 }).hue.softHi).toBe(0);
  expect(moved(key, 'softLo', { C: 0.1, hDeg: 320 }).hue.softLo).toBe(30);
  const hue = moved(key, 'hueHi', { C: 0.1, hDeg: 340 }).hue;
  expect(hue.hi - hue.lo).toBeGreaterThanOrEqual(2);
});
