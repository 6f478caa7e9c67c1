import type { Geometry, PathPoint } from '../document/geometry.ts';
import type { ShapeLayer } from '../document/layer.ts';
import { describe, expect, it } from 'vitest';
import { placementAbout } from '../shape/placement.ts';
import { shapeMatteInto } from '../shape/shapeMatte.ts';
import { worst } from '../testing/mattes.ts';
import type { Homography } from '../track/homography.ts';
import type { TrackMotion } from '../track/trackMotion.ts';
import { foldNumbers, numberKeyframesEdited, pathEdited } from './edits.ts';
import { layerAt, shownLayerAt } from './layerAt.ts';
import type { Motions } from './place.ts';
import { numbersAt, withNumber } from './numbers.ts';
import { keyframing } from '../testing/animation.ts';
import { PLAIN_LAYER } from '../testing/layers.ts';

const corner = (x: number, y: number): PathPoint => ({ x, y, inX: 0, inY: 0, outX: 0, outY: 0 });
const square = (x: number, y: number, size = 20): Geometry => ({
  form: 'spline',
  points: [corner(x, y), corner(x + size, y), corner(x + size, y + size), corner(x, y + size)],
});
const layer = (more: Partial<ShapeLayer> = {}): ShapeLayer => ({
  ...PLAIN_LAYER,
  kind: 'shape',
  geometry: square(10, 10),
  feather: { innerPx: 0, outerPx: 0, falloff: 'linear' },
  ...more,
});
const at = (l: ShapeLayer, frame: number, motions: Motions = new Map()) => layerAt(l, frame, motions) as ShapeLayer;
const points = (l: ShapeLayer) => (l.geometry as Extract<Geometry, { form: 'spline' }>).points;

describe('a layer on a frame', () => {
  it('takes its numbers, its path and its frames from keyframes', () => {
    const l = layer({
      animated: {
        strength: [
          { frame: 0, value: 0, ease: 'linear' },
          { frame: 10, value: 1, ease: 'linear' },
        ],
        'feather.outerPx': [
          { frame: 0, value: 4, ease: 'hold' },
          { frame: 5, value: 8, ease: 'hold' },
        ],
      },
      paths: [
        { frame: 0, value: square(0, 0), ease: 'linear' },
        { frame: 10, value: square(100, 40), ease: 'linear' },
      ],
      span: { from: 2, to: 8 },
    });
    const five = at(l, 5);
    expect([five.strength, five.feather.outerPx, five.on]).toEqual([0.5, 8, true]);
    expect(points(five)[0]).toMatchObject({ x: 50, y: 20 });
    expect([1, 2, 8, 9].map((f) => at(l, f).on)).toEqual([false, true, true, false]);
    // what comes out needs no frame any more
    expect(five.animated ?? five.paths ?? five.span).toBeUndefined();
  });

  it('places the path, then carries it with the track it follows', () => {
    const track: TrackMotion = {
      referenceFrame: 0,
      quad: [
        [0, 0],
        [40, 0],
        [40, 40],
        [0, 40],
      ],
      known: new Map([[3, { motion: [2, 0, 5, 0, 2, 7, 0, 0, 1], confidence: 1, by: 'track' }]]),
    };
    const motions: Motions = new Map([['t', track]]);
    const follow = { trackId: 't', move: true, turn: true, scale: true, shear: true, perspective: true };
    const l = layer({ placement: { ...placementAbout(20, 20), moveX: 10 }, follow });
    expect(points(at(l, 0, motions))[0]).toMatchObject({ x: 20, y: 10 });
    expect(points(at(l, 3, motions))[0]).toMatchObject({ x: 45, y: 27 });
    // without scale it moves with the middle of the region and keeps its size
    const moved = points(at({ ...l, follow: { ...follow, scale: false } }, 3, motions));
    expect(moved[1]!.x - moved[0]!.x).toBeCloseTo(20, 9);
    // a track that is gone leaves the shape where it is
    expect(points(at({ ...l, follow: { ...follow, trackId: 'gone' } }, 3, motions))[0]).toMatchObject({ x: 20, y: 10 });
  });

  it('draws a circle under perspective as the projected circle, to a twentieth of α', () => {
    const h: Homography = [1, 0.05, 3, -0.04, 1.1, 2, 0.0012, 0.0008, 1];
    const track: TrackMotion = {
      referenceFrame: 0,
      quad: [
        [0, 0],
        [100, 0],
        [100, 100],
        [0, 100],
      ],
      known: new Map([[1, { motion: h, confidence: 1, by: 'track' }]]),
    };
    const circle = layer({
      geometry: { form: 'ellipse', cx: 50, cy: 50, width: 60, height: 60, turnDeg: 0 },
      follow: { trackId: 't', move: true, turn: true, scale: true, shear: true, perspective: true },
    });
    const drawn = new Float32Array(100 * 100);
    shapeMatteInto(drawn, 100, 100, at(circle, 1, new Map([['t', track]])), 1);
    // the same by looking back through the map, 12 × 12 samples a pixel
    const [a, b, c, d, e, f, g, i, j] = h;
    const det = a * (e * j - f * i) - b * (d * j - f * g) + c * (d * i - e * g);
    const inverse = [
      e * j - f * i,
      c * i - b * j,
      b * f - c * e,
      f * g - d * j,
      a * j - c * g,
      c * d - a * f,
      d * i - e * g,
      b * g - a * i,
      a * e - b * d,
    ].map((v) => v / det);
    const truth = new Float32Array(100 * 100);
    for (let y = 0; y < 100; y++)
      for (let x = 0; x < 100; x++)
        for (let k = 0; k < 144; k++) {
          const [u, v] = [x + ((k % 12) + 0.5) / 12, y + (Math.floor(k / 12) + 0.5) / 12];
          const w = inverse[6]! * u + inverse[7]! * v + inverse[8]!;
          if (
            Math.hypot(
              (inverse[0]! * u + inverse[1]! * v + inverse[2]!) / w - 50,
              (inverse[3]! * u + inverse[4]! * v + inverse[5]!) / w - 50,
            ) < 30
          )
            truth[y * 100 + x] = truth[y * 100 + x]! + 1 / 144;
        }
    expect(worst(drawn, truth)).toBeLessThan(0.05); // a circle of four cubics is itself off by 2.7e-4 of its radius
  });
});

describe('edits and keyframes', () => {
  const keys = [
    { frame: 0, value: 1, ease: 'linear' as const },
    { frame: 10, value: 3, ease: 'linear' as const },
  ];
  it('changes this keyframe, or all alike', () => {
    expect(numberKeyframesEdited(keys, 2, 5, keyframing(5)).map((k) => [k.frame, k.value])).toEqual([
      [0, 1],
      [5, 5],
      [10, 3],
    ]);
    expect(numberKeyframesEdited(keys, 2, 5, keyframing(5, { everywhere: true })).map((k) => k.value)).toEqual([4, 6]);
  });
  it('folds an edit into keyframes where there are any, and makes the first with auto-key', () => {
    const stored = { strength: 1, feather: { innerPx: 2 }, animated: { strength: keys } };
    const shown = numbersAt(stored, stored.animated, 5);
    const edited = { ...shown, strength: 7, feather: { innerPx: 9 } };
    const plain = foldNumbers(stored, shown, edited, keyframing(5));
    expect(numbersAt(plain, plain.animated, 5).strength).toBe(7);
    expect(plain.feather.innerPx).toBe(9);
    expect(Object.keys(plain.animated)).toEqual(['strength']);
    const auto = foldNumbers(stored, shown, edited, keyframing(5, { auto: true }));
    expect(auto.animated).toMatchObject({ 'feather.innerPx': [{ frame: 5, value: 9 }] });
  });
  it('moves one keyframe of a path, or every one of them the same way', () => {
    const l = layer({
      paths: [
        { frame: 0, value: square(0, 0), ease: 'linear' },
        { frame: 10, value: square(100, 0), ease: 'linear' },
      ],
    });
    const shown = shownLayerAt(l, 5).geometry;
    const moved: Geometry = {
      form: 'spline',
      points: (shown as { points: PathPoint[] }).points.map((p) => ({ ...p, y: p.y + 8 })),
    };
    const here = { ...l, ...pathEdited(l, moved, keyframing(5)) };
    expect([0, 5, 10].map((f) => points(at(here, f))[0]!.y)).toEqual([0, 8, 0]);
    const everywhere = { ...l, ...pathEdited(l, moved, keyframing(5, { everywhere: true })) };
    expect([0, 5, 10].map((f) => points(at(everywhere, f))[0]!.y)).toEqual([8, 8, 8]);
  });
  it('adds a point to all keyframes of a path, and takes it from all', () => {
    const l = layer({
      paths: [
        { frame: 0, value: square(0, 0), ease: 'linear' },
        { frame: 10, value: square(100, 0), ease: 'linear' },
      ],
    });
    const shown = (shownLayerAt(l, 0).geometry as { points: PathPoint[] }).points;
    const more: Geometry = { form: 'spline', points: [shown[0]!, corner(5, 0), ...shown.slice(1)] };
    const added = { ...l, ...pathEdited(l, more, keyframing(0)) };
    expect(added.paths!.map((k) => (k.value as { points: PathPoint[] }).points.length)).toEqual([5, 5]);
    expect(points(at(added, 10))[1]!.x).toBeCloseTo(105, 2); // a quarter of the way along the segment, there too
    const fewer = pathEdited(added, { form: 'spline', points: shown }, keyframing(0));
    expect(fewer.paths!.map((k) => (k.value as { points: PathPoint[] }).points.length)).toEqual([4, 4]);
  });
  it('sets a number by its dotted name and leaves the rest untouched', () => {
    const object = { a: { b: 1 }, c: 'x' };
    expect(withNumber(object, 'a.b', 2)).toEqual({ a: { b: 2 }, c: 'x' });
    expect(withNumber(object, 'a.z', 2)).toBe(object);
    expect(object.a.b).toBe(1);
  });
});

it('a layer of which nothing is animated is shown as the same object on every frame', () => {
  const still = layer();
  expect([0, 7].map((frame) => shownLayerAt(still, frame) === still)).toEqual([true, true]);
});
