import { expect, it } from 'vitest';
import type { Follow, Geometry, GroupLayer, Layer, ScribbleLayer, ShapeLayer, Stroke } from '@mellow/contract';
import {
  describe as textOf,
  duplicated,
  groupedWithNext,
  isKey,
  movedBy,
  newKey,
  newPlate,
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

it('begins a layer plainly: on, not inverted, whole; a shape with a pixel of feather, a plate without its file', () => {
  const shape = newShape([], box(0));
  expect(shape).toMatchObject({ kind: 'shape', on: true, invert: false, strength: 1 });
  expect(shape.feather).toEqual({ innerPx: 1, outerPx: 1, falloff: 'smooth' });
  expect(newPlate([shape])).toMatchObject({
    name: 'Plate matte 1',
    mode: 'within',
    kind: 'plate',
    mediaId: null,
    channel: 'luma',
    offsetFrames: 0,
  });
  expect([newKey([]), shape, undefined].map(isKey)).toEqual([true, false, false]);
});

const named = (...names: string[]): Layer[] => names.map((name) => ({ ...newShape([], box(0)), name }));
const names = (layers: readonly Layer[] | undefined) => layers?.map((l) => l.name);

it('moves a layer up and down its stack, and not out of it', () => {
  const layers = named('a', 'b', 'c');
  expect(names(movedBy(layers, 0, 1))).toEqual(['b', 'a', 'c']);
  expect(names(movedBy(layers, 2, -2))).toEqual(['c', 'a', 'b']);
  expect(names(movedBy(layers, 2, 1))).toEqual(['a', 'b', 'c']);
  expect(names(movedBy(layers, 0, -1))).toEqual(['a', 'b', 'c']);
});

it('puts a copy with ids of its own below a layer, a group’s layers included', () => {
  const [a, b] = named('a', 'b'.repeat(120));
  const group: Layer = { ...groupedWithNext([a!, b!], 0)![0]!, name: 'Group 1' };
  const stack = duplicated([group, a!], 0);
  expect(names(stack)).toEqual(['Group 1', 'Group 1 copy', 'a']);
  const idsOf = (layer: Layer) => [layer, ...(layer.kind === 'group' ? layer.layers : [])].map((l) => l.id);
  const ids = [...idsOf(stack[0]!), ...idsOf(stack[1]!)];
  expect(new Set(ids.filter(Boolean)).size).toBe(6);
  expect(stack[1]).toMatchObject({ kind: 'group', layers: [{ name: 'a' }, { name: b!.name }] });
  const [, copy, ...rest] = duplicated([b!], 0);
  expect([copy!.name, copy!.kind, rest]).toEqual([b!.name, 'shape', []]);
});

it('groups two layers and gives the same two back', () => {
  const layers: Layer[] = [
    { ...newShape([], box(0)), mode: 'within' },
    { ...newShape([], box(3)), mode: 'without' },
  ];
  const grouped = groupedWithNext(layers, 0)!;
  expect(grouped).toMatchObject([{ name: 'Group 1', kind: 'group', mode: 'within', layers: [{ mode: 'add' }, {}] }]);
  expect(ungrouped(grouped, 0).map((l) => [l.name, l.mode])).toEqual(layers.map((l) => [l.name, l.mode]));
  expect(ungrouped(layers, 0)).toEqual(layers);
  expect(ungrouped(layers, 9)).toEqual(layers);
});

it('lets a group take in the next layer, and makes no group of a group, nor of the last layer alone', () => {
  const layers = named('a', 'b', 'c', 'd');
  const two = groupedWithNext(layers, 1)!;
  expect(names(two)).toEqual(['a', 'Group 1', 'd']);
  const three = groupedWithNext(two, 1)!;
  expect(names(three)).toEqual(['a', 'Group 1']);
  expect(names((three[1] as GroupLayer).layers)).toEqual(['b', 'c', 'd']);
  expect(groupedWithNext(three, 0)).toBeUndefined();
  expect(groupedWithNext(layers, 3)).toBeUndefined();
  expect(groupedWithNext([], 0)).toBeUndefined();
});

it('says under a layer’s name what it is', () => {
  const key = newKey([], 'range');
  const pick = { x: 0, y: 0 } as never;
  const chosen = { ...key, key: {} } as typeof key;
  expect(textOf(key)).toBe('Range key: pick a colour in the picture');
  expect(textOf({ ...chosen, picks: [pick] })).toBe('Range key, 1 pick');
  expect(textOf({ ...chosen, picks: [pick, pick] })).toBe('Range key, 2 picks');
  expect(textOf(newShape([], box(0)))).toBe('spline');
  expect(textOf(groupedWithNext(named('a', 'b'), 0)![0]!)).toBe('group of 2');
  expect(textOf(newPlate([]))).toBe('plate matte: choose its file');
  expect(textOf({ ...newPlate([]), mediaId: 'm', channel: 'alpha' })).toBe('plate matte, alpha');
});

it('says of a scribble how many strokes it has each way, and what it lacks', () => {
  const stroke = (sign: 'in' | 'out') => ({ sign, widthPx: 8, points: [[1, 2]] as [number, number][] });
  const made = newScribble([newShape([], box(0))], stroke('in'));
  expect([made.name, made.mode, textOf(made)]).toEqual(['Scribble 1', 'within', 'scribble, 1 in']);
  expect(textOf({ ...made, strokes: [stroke('in'), stroke('out'), stroke('in')] })).toBe('scribble, 2 in, 1 out');
  expect(textOf({ ...made, strokes: [stroke('out')] })).toBe('scribble: draw a stroke over what is in');
  expect(textOf({ ...made, strokes: [{ ...stroke('in'), sign: 'around' }] })).toBe('scribble, 1 around');
  const pasted = pastedInto({ ...made, follow: follow('a') }, ['b']);
  expect('follow' in pasted && pasted.follow).toBeFalsy();
});

it('what a pasted scribble was carried to, and what its strokes lay on, stays with the footage it came from', () => {
  const stroke: Stroke = { sign: 'in', widthPx: 8, points: [[1, 1]], frame: 3 };
  const made = { ...newScribble([], { ...stroke, looks: [{ L: 0.5, a: 0, b: 0 }] }), carried: [{ id: 'r' }] };
  const pasted = pastedInto(made as unknown as Layer, []) as ScribbleLayer;
  expect(pasted.carried).toEqual([]);
  expect(textOf(pasted)).toBe('scribble, 1 in, carried');
  expect(pasted.strokes).toEqual([stroke]);
  // in a group no less
  const group = { ...newShape([], box(0)), kind: 'group', layers: [{ ...made, follow: follow('a') }] };
  const [inner] = (pastedInto(group as unknown as Layer, ['b']) as GroupLayer).layers as [ScribbleLayer];
  expect([inner.carried, inner.strokes, inner.follow]).toEqual([[], [stroke], undefined]);
});

it('a pasted stroke that rides on a track of another shot stands', () => {
  const rides = (trackId: string): Stroke => ({ sign: 'in', widthPx: 8, points: [[1, 1]], follow: follow(trackId) });
  const made = { ...newScribble([], rides('a')), strokes: [rides('a'), rides('b')] };
  const pasted = pastedInto(made, ['b']) as ScribbleLayer;
  expect(pasted.strokes.map((s) => s.follow?.trackId ?? s.follow)).toEqual([null, 'b']);
});
