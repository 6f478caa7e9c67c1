import { expect, it } from 'vitest';
import type { Geometry } from '../document/geometry.ts';
import { pathOf } from '../shape/path.ts';
import { placementAbout } from '../shape/placement.ts';
import { FLEX_NODES } from '../track/flex.ts';
import { STILL, type Homography } from '../track/homography.ts';
import type { TrackMotion } from '../track/trackMotion.ts';
import { carriedBack, carriedThere, followedPoint, placeOf, type Motions } from './place.ts';

const disc: Geometry = { form: 'ellipse', cx: 60, cy: 50, width: 40, height: 24, turnDeg: 10 };
const moved: Homography = [1.1, 0.1, 12, -0.05, 0.9, 4, 0.0008, -0.0005, 1];
const flex = Array.from({ length: FLEX_NODES * FLEX_NODES }, (_, k) => [
  2 * Math.sin(k / 9),
  1.5 * Math.cos(k / 7),
]).flat();
const track: TrackMotion = {
  referenceFrame: 0,
  quad: [
    [20, 20],
    [110, 20],
    [110, 90],
    [20, 90],
  ],
  known: new Map([[4, { motion: moved, confidence: 1, by: 'track', flex }]]),
};
const motions: Motions = new Map([['t', track]]);
const follow = { trackId: 't', move: true, turn: true, scale: true, shear: true, perspective: true };
const placement = { ...placementAbout(60, 50), moveX: 5, turnDeg: 20, scaleX: 1.2 };
const places = (geometry: Geometry) => pathOf(geometry).flatMap((p) => [p.x, p.y, p.inX, p.inY, p.outX, p.outY]);
const furthest = (a: Geometry, b: Geometry) => {
  const [p, q] = [places(a), places(b)];
  expect(p).toHaveLength(q.length);
  return Math.max(...p.map((v, i) => Math.abs(v - q[i]!)));
};

it.each([
  ['placed', { placement }],
  ['followed', { follow }],
  ['placed and followed', { placement, follow }],
  ['placed, bent and followed', { placement, follow: { ...follow, flex: true } }],
])('what is carried there comes back where it was: %s', (_, layer) => {
  const place = placeOf(layer, 4, motions);
  const there = carriedThere({ form: 'spline', points: pathOf(disc) }, place, true);
  expect(furthest(there, disc)).toBeGreaterThan(3);
  expect(furthest(carriedBack(there, place), disc)).toBeLessThan(2e-3);
});

it('stays itself where nothing carries it', () => {
  for (const layer of [{}, { follow: { ...follow, trackId: 'gone' } }]) {
    const place = placeOf(layer, 4, motions);
    expect(place).toEqual({ placed: STILL, bend: undefined, followed: STILL });
    expect(carriedThere(disc, place)).toBe(disc);
  }
});

it('bends only with what follows the bending', () => {
  const bend = (flexed: boolean) => placeOf({ follow: { ...follow, flex: flexed } }, 4, motions).bend;
  expect([bend(false), bend(true)?.flex]).toEqual([undefined, flex]);
});

it('carries a place from one frame to another and back, bending included', () => {
  for (const following of [follow, { ...follow, flex: true }]) {
    const [x, y] = followedPoint(following, 0, 4, motions, 70, 60);
    expect(Math.hypot(x - 70, y - 60)).toBeGreaterThan(3);
    const [bx, by] = followedPoint(following, 4, 0, motions, x, y);
    expect(Math.hypot(bx - 70, by - 60)).toBeLessThan(1e-3);
  }
  expect(followedPoint(undefined, 0, 4, motions, 70, 60)).toEqual([70, 60]);
});
