// What edits, and the keyframe buttons, make of keyframes; what a frame leaves out of it.
import { describe, expect, it } from 'vitest';
import type { NumberKeyframe } from '../document/animation.ts';
import type { Geometry } from '../document/geometry.ts';
import type { Layer } from '../document/layer.ts';
import { keyframing } from '../testing/animation.ts';
import { PLAIN_LAYER } from '../testing/layers.ts';
import {
  foldNumbers,
  keyframeToggled,
  numberKeyframesEdited,
  numberNames,
  pathEdited,
  type Keyframing,
} from './edits.ts';
import { geometryAt } from './geometryAt.ts';
import { numberAt } from './keyframes.ts';
import { isAnimated, layerAt, shownLayerAt } from './layerAt.ts';

const key = (frame: number, value: number, ease: NumberKeyframe['ease'] = 'linear') => ({ frame, value, ease });
const ellipse = (cx: number): Geometry => ({ form: 'ellipse', cx, cy: 5, width: 8, height: 6, turnDeg: 0 });
const gradient = (x0: number): Geometry => ({ form: 'gradient', x0, y0: 1, x1: 9, y1: 4 });

describe('a keyframe button', () => {
  it('sets one at what the thing is, takes it away again, and leaves nothing of the last', () => {
    const one = keyframeToggled(undefined, 5, 0.5, 'hold')!;
    expect(one).toEqual([key(5, 0.5, 'hold')]);
    const two = keyframeToggled(one, 2, 0.1, 'linear')!;
    expect(two).toEqual([key(2, 0.1), key(5, 0.5, 'hold')]);
    expect(keyframeToggled(two, 5, 9, 'linear')).toEqual([key(2, 0.1)]);
    expect(keyframeToggled(one, 5, 9, 'linear')).toBeUndefined();
  });
});

describe('an edit of a number', () => {
  it('keeps the ease of the keyframe that is there, and takes the chosen one where it makes one', () => {
    const keys = [key(0, 1, 'hold'), key(8, 2, 'smooth')];
    const ease = (frame: number) =>
      numberKeyframesEdited(keys, 1, 5, keyframing(frame)).find((k) => k.frame === frame)!.ease;
    expect([0, 8, 4].map(ease)).toEqual(['hold', 'smooth', 'linear']);
  });
  it('is of every number of an object by its dotted name, but not of lists and of what is left out', () => {
    const object = { a: 1, b: { c: 2, d: { e: 3 } }, list: [4, { f: 5 }], text: 'x', none: null, on: true };
    expect(numberNames(object)).toEqual(['a', 'b.c', 'b.d.e']);
    expect(numberNames(object, ['b.d', 'a'])).toEqual(['b.c']);
    for (const nothing of [null, 7, 'x', [1, 2], undefined]) expect(numberNames(nothing)).toEqual([]);
  });
  it('of what is left out makes no keyframe', () => {
    const stored = { a: 1, b: 2, animated: undefined };
    const folded = foldNumbers(stored, stored, { ...stored, a: 5, b: 6 }, keyframing(3, { auto: true }), ['b']);
    expect(folded).toEqual({ a: 5, b: 6, animated: { a: [key(3, 5)] } });
  });
  it('from here on leaves what was before as it stood, and needs no more on the first frame or a second time', () => {
    const stored = { a: 1, animated: undefined };
    const fromHere = (frame: number) => keyframing(frame, { auto: 'from here' });
    const once = foldNumbers(stored, stored, { ...stored, a: 5 }, fromHere(3));
    expect(once.animated).toEqual({ a: [key(0, 1, 'hold'), key(3, 5)] });
    expect([0, 2, 3, 9].map((frame) => numberAt(once.animated!['a'], frame))).toEqual([1, 1, 5, 5]);
    expect(foldNumbers(stored, stored, { ...stored, a: 5 }, fromHere(0)).animated).toEqual({ a: [key(0, 5)] });
    const again = foldNumbers(once as never, { ...once, a: 5 } as never, { ...once, a: 7 } as never, fromHere(3));
    expect((again as { animated: unknown }).animated).toEqual({ a: [key(0, 1, 'hold'), key(3, 7)] });
  });
});

describe('a path with keyframes', () => {
  it('of a box or a gradient goes between them number by number', () => {
    const between = (from: Geometry, to: Geometry) =>
      geometryAt(
        [
          { frame: 0, value: from, ease: 'linear' },
          { frame: 10, value: to, ease: 'linear' },
        ],
        5,
      );
    expect(between(ellipse(0), ellipse(20))).toEqual(ellipse(10));
    expect(between(gradient(0), gradient(6))).toEqual(gradient(3));
  });
  it('loses them when its form changes', () =>
    expect(
      pathEdited(
        { geometry: ellipse(0), paths: [{ frame: 0, value: ellipse(0), ease: 'hold' }] },
        gradient(1),
        keyframing(0),
      ),
    ).toEqual({ geometry: gradient(1), paths: undefined }));
  it('gets its first by itself only with auto-key, and not when all are meant', () => {
    const edited = (more: Partial<Keyframing>) =>
      pathEdited({ geometry: ellipse(0) }, ellipse(4), keyframing(7, more)).paths;
    expect(edited({})).toBeUndefined();
    expect(edited({ auto: true })).toEqual([{ frame: 7, value: ellipse(4), ease: 'linear' }]);
    expect(edited({ auto: true, everywhere: true })).toBeUndefined();
  });
});

describe('a layer', () => {
  const shape = { ...PLAIN_LAYER, kind: 'shape', geometry: ellipse(1) } as Layer;
  const follow = { trackId: 't', move: true, turn: false, scale: false, shear: false, perspective: false };
  const scribble = { ...PLAIN_LAYER, kind: 'scribble', strokes: [] } as Layer;
  const range = { ...PLAIN_LAYER, kind: 'range', key: null, picks: [] } as Layer;
  const group = (...layers: Layer[]) => ({ ...PLAIN_LAYER, kind: 'group', layers }) as Layer;
  const fading = { animated: { strength: [key(0, 0), key(10, 1)] } };

  it('depends on the frame by keyframes, span, path, placement or what it follows, as a group by its layers', () => {
    const still = [shape, scribble, range, group(), group(shape, range), { ...range, follow } as Layer];
    expect(still.map(isAnimated)).toEqual(still.map(() => false));
    const moving = [
      { ...range, ...fading },
      { ...range, span: { from: 1, to: 2 } },
      { ...shape, paths: [] },
      { ...shape, follow },
      { ...shape, placement: {} },
      { ...scribble, follow },
      group({ ...shape, follow } as Layer, range),
    ] as Layer[];
    expect(moving.map(isAnimated)).toEqual(moving.map(() => true));
  });
  it('that does not is given back as it is; a key with keyframes keeps its kind and gets its numbers', () => {
    expect(layerAt(range, 5, new Map())).toBe(range);
    const now = layerAt({ ...range, ...fading }, 5, new Map());
    expect(now).toEqual({ ...range, strength: 0.5 });
    expect(shownLayerAt({ ...range, ...fading }, 5)).toEqual({ ...range, ...fading, strength: 0.5 });
  });
});
