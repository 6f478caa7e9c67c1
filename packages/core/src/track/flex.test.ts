import type { Geometry } from '../document/geometry.ts';
import type { ShapeLayer } from '../document/layer.ts';
import { expect, it } from 'vitest';
import { layerAt } from '../animate/layerAt.ts';
import { pathOf } from '../shape/path.ts';
import { bentPoint, flexed, unflexed } from '../shape/flexed.ts';
import { FLEX_NODES, flexAt, flexBetween, type Flex } from './flex.ts';
import { project, type Homography, type Quad } from './homography.ts';
import { bendAt, type TrackMotion } from './trackMotion.ts';
import { PLAIN_LAYER } from '../testing/layers.ts';

const quad: Quad = [
  [100, 50],
  [340, 50],
  [340, 250],
  [100, 250],
];
/** A flex whose displacement is a given function of the place. */
const flexOf = (at: (x: number, y: number) => [number, number]): Flex =>
  Array.from({ length: FLEX_NODES ** 2 }, (_, n) =>
    at(100 + (240 * (n % FLEX_NODES)) / (FLEX_NODES - 1), 50 + (200 * Math.floor(n / FLEX_NODES)) / (FLEX_NODES - 1)),
  ).flat();
const wave = flexOf((x, y) => [2 * Math.sin(y / 40), 6 * Math.sin(x / 32)]);

it('meets its nodes, and a 6 px wave of 200 px length between them to an eighth of a pixel', () => {
  expect(flexAt(wave, quad, 120, 50)[1]).toBeCloseTo(6 * Math.sin(120 / 32), 10);
  for (let x = 125; x < 320; x += 3.7)
    expect(Math.abs(flexAt(wave, quad, x, 133)[1] - 6 * Math.sin(x / 32))).toBeLessThan(0.12);
});
it('stays beyond the region as at its rim', () => {
  expect(flexAt(wave, quad, 900, 150)).toEqual(flexAt(wave, quad, 340, 150));
});
it('is undone by its way back', () => {
  const spline: Geometry = {
    form: 'spline',
    points: [
      [120, 80],
      [300, 90],
      [310, 230],
      [130, 200],
    ].map(([x, y]) => ({ x: x!, y: y!, inX: -15, inY: 4, outX: 15, outY: -4 })),
  };
  const bend = { flex: wave, quad };
  const there = flexed(spline, bend, true);
  pathOf(unflexed(there, bend)).forEach((p, i) => {
    const own = pathOf(spline)[i]!;
    for (const k of ['x', 'y', 'inX', 'inY', 'outX', 'outY'] as const) expect(p[k]).toBeCloseTo(own[k], 3);
  });
});
it('divides long segments so that they bend too', () => {
  const box: Geometry = { form: 'rectangle', cx: 220, cy: 150, width: 180, height: 120, turnDeg: 0 };
  const points = pathOf(flexed(box, { flex: wave, quad }));
  expect(points.length).toBe(4 * 8);
  // every point of the divided rectangle lies where the bending puts the place it came from
  const middleOfTop = points.reduce((best, p) =>
    Math.abs(p.x - 220) + Math.abs(p.y - 90) < Math.abs(best.x - 220) + Math.abs(best.y - 90) ? p : best,
  );
  const [x, y] = bentPoint({ flex: wave, quad }, 220, 90);
  expect([middleOfTop.x, middleOfTop.y].map((v) => v.toFixed(3))).toEqual([x, y].map((v) => v.toFixed(3)));
});

const turn: Homography = [0.98, -0.17, 30, 0.17, 0.98, -12, 0, 0, 1];
const track: TrackMotion = {
  referenceFrame: 0,
  quad,
  known: new Map([
    [1, { motion: turn, confidence: 1, by: 'track', flex: wave }],
    [3, { motion: turn, confidence: 1, by: 'track', flex: wave.map((v) => 3 * v) }],
    [2, { motion: turn, confidence: 1, by: 'hand' }],
  ]),
};
it('goes on between tracked frames, over a frame set by hand too, and is none on the reference frame', () => {
  expect(bendAt(track, 0)).toBeUndefined();
  expect(bendAt(track, 2)![31]).toBeCloseTo(2 * wave[31]!, 10);
  expect(bendAt(track, 9)![31]).toBeCloseTo(3 * wave[31]!, 10);
  expect(flexBetween(undefined, undefined, 0.5)).toBeUndefined();
});
it('carries a follower that takes it, and leaves alone one that does not', () => {
  const layer = (flex: boolean): ShapeLayer => ({
    ...PLAIN_LAYER,
    kind: 'shape',
    feather: { innerPx: 0, outerPx: 0, falloff: 'linear' },
    geometry: {
      form: 'spline',
      points: [
        [150, 100],
        [170, 100],
        [160, 115],
      ].map(([x, y]) => ({ x: x!, y: y!, inX: 0, inY: 0, outX: 0, outY: 0 })),
    },
    follow: { trackId: 't', move: true, turn: true, scale: true, shear: true, perspective: true, flex },
  });
  const firstOn = (flex: boolean) =>
    pathOf((layerAt(layer(flex), 1, new Map([['t', track]])) as ShapeLayer).geometry)[0]!;
  const [dx, dy] = flexAt(wave, quad, 150, 100);
  const [there, still] = [project(turn, 150 + dx, 100 + dy), project(turn, 150, 100)];
  expect([firstOn(true).x, firstOn(true).y].map((v) => v.toFixed(6))).toEqual(there.map((v) => v.toFixed(6)));
  expect([firstOn(false).x, firstOn(false).y].map((v) => v.toFixed(6))).toEqual(still.map((v) => v.toFixed(6)));
});
