import { expect, it } from 'vitest';
import type { Follow, Geometry, Layer, ShapeLayer } from '@mellow/contract';
import {
  describe as textOf,
  groupedWithNext,
  newKey,
  newScribble,
  newShape,
  pastedInto,
  shapeFromText,
  startingAt,
  ungrouped,
} from './layers.ts';

const box = (x: number): Geometry => ({
  form: 'spline',
  points: [
    [x, 0],
    [x + 10, 0],
    [x, 10],
  ].map(([px, py]) => ({ x: px!, y: py!, inX: 0, inY: 0, outX: 0, outY: 0 })),
});
const follow = (trackId: string) =>
  ({ trackId, move: true, turn: true, scale: true, shear: true, perspective: true }) as Follow;

it('names layers by kind and number; the first adds, later ones keep within', () => {
  const first = newShape([], box(0));
  const second = newShape([first], box(0));
  expect([first.name, first.mode, second.name, second.mode]).toEqual(['Spline 1', 'add', 'Spline 2', 'within']);
  expect(newKey([first], 'luma')).toMatchObject({ name: 'Luma key 1', mode: 'within', key: null, picks: [] });
});

it('pasted elsewhere, a layer lets go of a track that is not there and keeps one that is', () => {
  const layer: ShapeLayer = { ...newShape([], box(0)), follow: follow('a') };
  expect((pastedInto(layer, ['a', 'b']) as ShapeLayer).follow).toMatchObject({ trackId: 'a' });
  const elsewhere = pastedInto(layer, ['b']) as ShapeLayer;
  expect(elsewhere.follow).toBeUndefined();
  expect(elsewhere.id).not.toBe(layer.id);
});

it('begins a copy’s keyframes on another frame, all of them by as much', () => {
  const layer: ShapeLayer = {
    ...newShape([], box(0)),
    paths: [
      { frame: 12, value: box(0), ease: 'linear' },
      { frame: 20, value: box(5), ease: 'linear' },
    ],
    animated: { strength: [{ frame: 15, value: 1, ease: 'hold' }] },
  };
  const moved = startingAt(layer, 30);
  expect(moved.paths!.map((k) => k.frame)).toEqual([30, 38]);
  expect(moved.animated!.strength!.map((k) => k.frame)).toEqual([33]);
  const still = newShape([], box(0));
  expect(startingAt(still, 30)).toBe(still);
});

it('takes a shape from SVG data, and one with keyframes from JSON', () => {
  expect(shapeFromText([], '<svg><path d="M0 0L9 0 9 9Z"/></svg>').paths).toBeUndefined();
  const made = shapeFromText(
    [],
    JSON.stringify({
      kind: 'shape-frames',
      version: 1,
      name: 'Handle',
      width: 10,
      height: 10,
      frames: [
        { frame: 3, path: 'M0 0L9 0 9 9Z' },
        { frame: 4, path: 'M1 0L10 0 10 9Z' },
      ],
    }),
    0,
  );
  expect([made.name, made.paths!.map((k) => k.frame)]).toEqual(['Handle', [0, 1]]);
  expect(() => shapeFromText([], 'M0 0')).toThrow(/three points/);
});

it('groups two layers and gives the same two back', () => {
  const layers: Layer[] = [newShape([], box(0)), { ...newShape([], box(3)), mode: 'without' }];
  const grouped = groupedWithNext(layers, 0)!;
  expect(grouped).toHaveLength(1);
  expect(ungrouped(grouped, 0).map((l) => [l.name, l.mode])).toEqual(layers.map((l) => [l.name, l.mode]));
  expect(groupedWithNext(layers, 1)).toBeUndefined();
});

it('says of a scribble how many strokes it has each way, and what it lacks', () => {
  const stroke = (sign: 'in' | 'out') => ({ sign, widthPx: 8, points: [[1, 2]] as [number, number][] });
  const made = newScribble([newShape([], box(0))], stroke('in'));
  expect([made.name, made.mode, textOf(made)]).toEqual(['Scribble 1', 'within', 'scribble, 1 in, 0 out']);
  expect(textOf({ ...made, strokes: [stroke('in'), stroke('out'), stroke('in')] })).toBe('scribble, 2 in, 1 out');
  expect(textOf({ ...made, strokes: [stroke('out')] })).toBe('scribble: draw a stroke over what is in');
  const pasted = pastedInto({ ...made, follow: follow('a') }, ['b']);
  expect('follow' in pasted && pasted.follow).toBeFalsy();
});
