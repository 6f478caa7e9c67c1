import type { PathPoint } from '../document/geometry.ts';
import type { ShapeLayer } from '../document/layer.ts';
import fc from 'fast-check';
import { expect, it } from 'vitest';
import { FLEX_NODES } from '../track/flex.ts';
import { pathKeyframesFrom, shapeDataOf } from './shapeData.ts';
import { pathFromSvg, svgFromPath } from './svgPath.ts';
import { PLAIN_LAYER } from '../testing/layers.ts';

const value = fc.integer({ min: -4000, max: 4000 }).map((v) => v / 8);
const point = fc.record({ x: value, y: value, inX: value, inY: value, outX: value, outY: value });

it('writes a path as SVG data and reads the same path back', () => {
  fc.assert(
    fc.property(
      fc.uniqueArray(point, { minLength: 3, maxLength: 12, selector: (p) => `${p.x} ${p.y}` }),
      (points: PathPoint[]) => {
        expect(pathFromSvg(svgFromPath(points))).toEqual(points.map((p) => ({ ...p })));
      },
    ),
  );
});

it('reads the examples of the SVG specification that are closed outlines', () => {
  // SVG 1.1 (Second Edition), 8.3.2: the triangle
  expect(pathFromSvg('M 100 100 L 300 100 L 200 300 z').map((p) => [p.x, p.y])).toEqual([
    [100, 100],
    [300, 100],
    [200, 300],
  ]);
  // 8.3.6: C and S, here closed; the reflected control point makes the curve smooth
  const [, middle] = pathFromSvg('M100,200 C100,100 250,100 250,200 S400,300 400,200 Z');
  expect(middle).toMatchObject({ x: 250, y: 200, inX: 0, inY: -100, outX: 0, outY: 100 });
  // relative commands and repeated coordinates say the same as absolute ones
  expect(pathFromSvg('m 10 10 h 5 v 5 l -5 0 z')).toEqual(pathFromSvg('M10 10 15 10 15 15 10 15Z'));
});

it('says what cannot be read, and where', () => {
  expect(() => pathFromSvg('M0 0 Q1 1 2 2Z')).toThrow(/“Q” at character 6/);
  expect(() => pathFromSvg('M0 0 L1 Z')).toThrow(/“L” at character 6: 2 numbers are needed, 1 are there/);
  expect(() => pathFromSvg('L0 0 1 1Z')).toThrow(/must begin with M/);
  expect(() => pathFromSvg('M0 0 L1 1 M2 2')).toThrow(/begins another/);
  expect(() => pathFromSvg('M0 0 L1 1Z')).toThrow(/at least three points/);
  expect(() => pathKeyframesFrom('{"kind":"shape-frames"')).toThrow(/not valid JSON/);
  expect(() =>
    pathKeyframesFrom(
      JSON.stringify({
        kind: 'shape-frames',
        version: 1,
        frames: [
          { frame: 0, path: 'M0 0L1 0 1 1Z' },
          { frame: 4, path: 'M0 0L1 0 1 1 0 1Z' },
        ],
      }),
    ),
  ).toThrow(/Frame 4 has 4 points, frame 0 has 3/);
  expect(() =>
    pathKeyframesFrom(JSON.stringify({ kind: 'shape-frames', version: 1, frames: [{ frame: 7, path: 'nothing' }] })),
  ).toThrow(/Frame 7/);
});

it('reads numbers as SVG writes them: signs that divide, bare points, exponents', () => {
  const corners = (data: string) => pathFromSvg(data).map((p) => [p.x, p.y]);
  expect(corners('M.25-1.5L+12.75.5 1e2 2.5E-1Z')).toEqual([
    [0.25, -1.5],
    [12.75, 0.5],
    [100, 0.25],
  ]);
  expect(corners('M1e+1 1e01 3. 4 5 6Z')).toEqual([
    [10, 10],
    [3, 4],
    [5, 6],
  ]);
});
it('takes a first point that comes again at the end as one, unless it is the only one', () => {
  const closed = pathFromSvg('M0 0 L9 0 L9 9 C8 9 1 2 0 0Z');
  expect(closed.map((p) => [p.x, p.y])).toEqual([
    [0, 0],
    [9, 0],
    [9, 9],
  ]);
  expect(closed[0]).toMatchObject({ inX: 1, inY: 2 });
  expect(pathFromSvg('M0 0 L9 0 L9 9 L0 0.002Z')).toHaveLength(4);
  expect(() => pathFromSvg('')).toThrow('a shape needs at least three points, the path data has 0');
  expect(() => pathFromSvg('M1 1')).toThrow('the path data has 1');
  expect(svgFromPath([])).toBe('');
});
it('says of a command which letter, where, and how many numbers it lacks or has too many', () => {
  expect(() => pathFromSvg('M0 0 L1 1 Z3')).toThrow('“Z” at character 11: 0 numbers are needed, 1 are there');
  expect(() => pathFromSvg('M0 0 H')).toThrow('“H” at character 6: 1 numbers are needed, 0 are there');
  expect(() => pathFromSvg('M0 0 X1')).toThrow('only M, L, H, V, C, S and Z can be read');
});
it('says of a file of shape frames what it lacks', () => {
  const triangle = 'M0 0L9 0 9 9Z';
  const whole = { kind: 'shape-frames', version: 1, frames: [{ frame: 0, path: triangle }] };
  const read = (more: object) => () => pathKeyframesFrom(JSON.stringify({ ...whole, ...more }));
  expect(read({})().keys).toHaveLength(1);
  const lacks = 'The file holds no shape frames: “kind” must be shape-frames, “version” 1, and “frames” a list.';
  for (const more of [{ kind: 'x' }, { version: 2 }, { frames: {} }, { frames: [] }]) expect(read(more)).toThrow(lacks);
  for (const frame of [-1, 1.5, '3'])
    expect(read({ frames: [{ frame, path: triangle }] })).toThrow(`“${frame}” is no frame number`);
  expect(read({ frames: [{ frame: 7, path: 'M0 0' }] })).toThrow('Frame 7: a shape needs at least three points');
});

it('gives every frame of an animated shape, and takes it in with frame numbers kept or shifted', () => {
  const corner = (x: number, y: number): PathPoint => ({ x, y, inX: 0, inY: 0, outX: 0, outY: 0 });
  const at = (x: number) => ({ form: 'spline' as const, points: [corner(x, 0), corner(x + 10, 0), corner(x, 10)] });
  const layer: ShapeLayer = {
    ...PLAIN_LAYER,
    kind: 'shape',
    geometry: at(0),
    feather: { innerPx: 0, outerPx: 0, falloff: 'linear' },
    paths: [
      { frame: 0, value: at(0), ease: 'linear' },
      { frame: 4, value: at(8), ease: 'linear' },
    ],
  };
  const data = shapeDataOf('Handle', layer, 5, { width: 100, height: 50 }, new Map());
  expect(data.frames.map((f) => pathFromSvg(f.path)[0]!.x)).toEqual([0, 2, 4, 6, 8]);
  const { name, keys } = pathKeyframesFrom(JSON.stringify(data));
  expect([name, keys.length, keys[3]!.frame]).toEqual(['Handle', 5, 3]);
  expect(pathKeyframesFrom(JSON.stringify(data), 20).keys.map((k) => k.frame)).toEqual([20, 21, 22, 23, 24]);
});

it('gives as many points on every frame, under perspective and bending too, so that it can be taken in again', () => {
  const layer: ShapeLayer = {
    ...PLAIN_LAYER,
    kind: 'shape',
    geometry: { form: 'ellipse', cx: 300, cy: 200, width: 400, height: 200, turnDeg: 0 },
    feather: { innerPx: 0, outerPx: 0, falloff: 'linear' },
    follow: { trackId: 't', move: true, turn: true, scale: true, shear: true, perspective: true, flex: true },
  };
  const flex = Array.from({ length: 2 * FLEX_NODES ** 2 }, (_, i) => Math.sin(i));
  const known = new Map([
    [1, { motion: [1, 0, 4, 0, 1, 0, 3e-4, 0, 1] as const, confidence: 1, by: 'track' as const, flex }],
  ]);
  const data = shapeDataOf(
    'Soft',
    layer,
    2,
    { width: 640, height: 480 },
    new Map([
      [
        't',
        {
          referenceFrame: 0,
          quad: [
            [0, 0],
            [640, 0],
            [640, 480],
            [0, 480],
          ] as const,
          known,
        },
      ],
    ]),
  );
  expect(data.frames[1]!.path).not.toBe(data.frames[0]!.path);
  expect(pathKeyframesFrom(JSON.stringify(data)).keys).toHaveLength(2);
});
