import { expect, it } from 'vitest';
import { FIELD_REACH } from '@mellow/core';
import { planeOf, polarMap } from './polarMap.ts';

const map = polarMap(250, 6);

it('places are on the field and back', () => {
  expect(map.placeOf({ a: 0, b: 0 })).toEqual([125, 125]);
  // b is upwards on the field, downwards on the screen
  expect(map.placeOf({ a: 0, b: FIELD_REACH })).toEqual([125, 6]);
  const { a, b } = map.colourAt(...map.placeOf({ a: 0.07, b: -0.11 }));
  expect([a, b]).toEqual([expect.closeTo(0.07, 12), expect.closeTo(-0.11, 12)]);
});
it('hue begins at the right and goes against the clock', () => {
  const at = (hDeg: number) => map.placeOf(planeOf(FIELD_REACH, hDeg)).map((v) => Math.round(v));
  expect([0, 90, 180, 270].map(at)).toEqual([
    [244, 125],
    [125, 6],
    [6, 125],
    [125, 244],
  ]);
});
