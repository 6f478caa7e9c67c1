import type { NumberKeyframe } from '../document/animation.ts';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { geometryAt } from './geometryAt.ts';
import {
  EASES,
  movedKeyframes,
  numberAt,
  vectorAt,
  withKeyframe,
  withKeyframeFromHere,
  withoutFrames,
} from './keyframes.ts';

const key = (frame: number, value: number, ease: NumberKeyframe['ease'] = 'linear'): NumberKeyframe => ({
  frame,
  value,
  ease,
});

it('goes straight, holds, and stays at either end', () => {
  const keys = [key(10, 0), key(20, 10, 'hold'), key(30, 40)];
  expect([0, 10, 15, 20, 29, 30, 99].map((f) => numberAt(keys, f))).toEqual([0, 0, 5, 10, 10, 40, 40]);
});

it('turns twice as fast when twice as far: 720° over the same frames', () => {
  // common practice, no source: a full turn of hue is 360°, 720° goes round twice
  const [once, twice] = [360, 720].map((to) => [key(0, 0), key(48, to)]);
  for (const f of [0, 6, 24, 48]) expect(numberAt(twice!, f)).toBeCloseTo(2 * numberAt(once!, f), 10);
});

const between = (keys: readonly NumberKeyframe[]) => {
  for (let i = 0; i + 1 < keys.length; i++) {
    const [a, b] = [keys[i]!, keys[i + 1]!];
    expect(numberAt(keys, a.frame)).toBe(a.value);
    for (let t = 0; t <= 1; t += 0.125) {
      const v = numberAt(keys, a.frame + t * (b.frame - a.frame));
      expect(v).toBeGreaterThanOrEqual(Math.min(a.value, b.value) - 1e-9);
      expect(v).toBeLessThanOrEqual(Math.max(a.value, b.value) + 1e-9);
    }
  }
};
it('meets every keyframe and never overshoots between two (Fritsch–Carlson)', () => {
  const somewhere = fc.tuple(fc.integer({ min: 0, max: 200 }), fc.double({ min: -100, max: 100, noNaN: true }));
  fc.assert(
    fc.property(fc.uniqueArray(somewhere, { minLength: 2, maxLength: 8, selector: ([frame]) => frame }), (some) =>
      between(some.sort((a, b) => a[0] - b[0]).map(([f, v]) => key(f, v, 'smooth'))),
    ),
  );
});
it('limits slopes to a circle of three chords: 0, 1, 10 worked by hand', () => {
  // chords 0.1 and 0.9, so slopes 0.1, 0.5, 0.9; the first two lie √(0.1² + 0.5²) = 0.5099 out, allowed is 0.3
  const keys = [0, 1, 10].map((value, i) => ({ frame: 10 * i, value, ease: 'smooth' as const }));
  const shrink = 0.3 / Math.hypot(0.1, 0.5);
  expect(numberAt(keys, 5)).toBeCloseTo(0.5 + 1.25 * shrink * (0.1 - 0.5), 12);
});
it('leaves out frames that are gone', () => {
  const keys = [1, 2, 3].map((frame) => ({ frame, value: frame, ease: 'hold' as const }));
  expect(withoutFrames(keys, (f) => f >= 2).map((k) => k.frame)).toEqual([1]);
});
it('carries a point’s feather along, and gives none to points that never had one', () => {
  const point = (feather?: number) => ({ x: 1, y: 2, inX: 0, inY: 0, outX: 0, outY: 0, ...(feather && { feather }) });
  const path = (...points: ReturnType<typeof point>[]) => ({ form: 'spline' as const, points });
  const keys = [
    { frame: 0, value: path(point(), point(), point(1)), ease: 'linear' as const },
    { frame: 10, value: path(point(3), point(), point(1)), ease: 'linear' as const },
  ];
  expect(geometryAt(keys, 5)).toStrictEqual(path(point(2), point(), point(1)));
  expect(geometryAt(keys, 0)).toStrictEqual(path(point(), point(), point(1)));
});
it('does so where two values are next to the same', () =>
  between([key(0, 99.99999999999982, 'smooth'), key(1, 0, 'smooth'), key(2, -3e-323, 'smooth')]));

it('reproduces a straight line when smooth', () => {
  const keys = [0, 7, 20, 33].map((f) => key(f, 3 * f - 5, 'smooth'));
  for (let f = 0; f <= 33; f++) expect(numberAt(keys, f)).toBeCloseTo(3 * f - 5, 9);
});

it('animates several numbers component by component', () => {
  expect(
    vectorAt(
      [
        { frame: 0, value: [0, 10], ease: 'linear' },
        { frame: 4, value: [4, 0], ease: 'linear' },
      ],
      1,
    ),
  ).toEqual([1, 7.5]);
});

it('sets, replaces and moves keyframes; the moved ones win where they land', () => {
  const keys = [key(0, 0), key(5, 1), key(9, 2)];
  expect(withKeyframe(keys, key(5, 7)).map((k) => k.value)).toEqual([0, 7, 2]);
  expect(withKeyframe(keys, key(3, 7)).map((k) => k.frame)).toEqual([0, 3, 5, 9]);
  expect(movedKeyframes(keys, (f) => f === 5, 4).map((k) => [k.frame, k.value])).toEqual([
    [0, 0],
    [9, 1],
  ]);
  expect(movedKeyframes(keys, (f) => f === 5, -20).map((k) => [k.frame, k.value])).toEqual([
    [0, 1],
    [9, 2],
  ]);
});

describe('a value from a frame on', () => {
  it('leaves every frame before as it was, whatever the keyframes, and keeps those that follow', () => {
    const keysOf = fc
      .uniqueArray(
        fc.record({
          frame: fc.integer({ min: 0, max: 40 }),
          value: fc.double({ min: -5, max: 5, noNaN: true }),
          ease: fc.constantFrom(...EASES),
        }),
        { selector: (k) => k.frame, minLength: 1, maxLength: 6 },
      )
      .map((keys) => [...keys].sort((a, b) => a.frame - b.frame));
    fc.assert(
      fc.property(keysOf, fc.integer({ min: 0, max: 40 }), fc.constantFrom(...EASES), (keys, frame, ease) => {
        const next = withKeyframeFromHere(keys, { frame, value: 99, ease });
        for (let f = 0; f < frame; f++) expect(numberAt(next, f)).toBeCloseTo(numberAt(keys, f), 8);
        expect(numberAt(next, frame)).toBe(99);
        expect(next.filter((k) => k.frame > frame)).toEqual(keys.filter((k) => k.frame > frame));
        expect(next.every((k, i) => i === 0 || k.frame > next[i - 1]!.frame)).toBe(true);
      }),
    );
  });
  it('needs no more keyframes than it takes', () => {
    const keys = [key(0, 1, 'hold'), key(4, 5)];
    expect(withKeyframeFromHere(keys, key(10, 9))).toEqual([key(0, 1, 'hold'), key(4, 5, 'hold'), key(10, 9)]);
    expect(withKeyframeFromHere(keys, key(4, 9))).toEqual([key(0, 1, 'hold'), key(4, 9)]);
    const ramp = [key(2, 0), key(8, 6)];
    expect(withKeyframeFromHere(ramp, key(6, 9))).toEqual([key(2, 0), key(5, 3, 'hold'), key(6, 9), key(8, 6)]);
    expect(withKeyframeFromHere(ramp, key(1, 9))).toEqual([key(0, 0, 'hold'), key(1, 9), ...ramp]);
  });
});
