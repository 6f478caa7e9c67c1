import { describe, expect, it } from 'vitest';
import { CleanUp, Layer, PathKeyframes, Spill, Window, type Geometry } from './layer.ts';

/** The path of what a schema refuses, and why; undefined where it takes it. */
const refusal = (schema: { safeParse: (v: unknown) => { error?: unknown } }, value: unknown) =>
  (schema.safeParse(value).error as { issues: { path: PropertyKey[]; message: string }[] } | undefined)?.issues.map(
    ({ path, message }) => `${path.join('.')}: ${message}`,
  );

it('takes a window whose ends meet, and none that is the wrong way round', () => {
  const window = { on: true, lo: 0.4, hi: 0.4, softLo: 0, softHi: 0 };
  expect(refusal(Window, window)).toBeUndefined();
  expect(refusal(Window, { ...window, hi: 0.39 })).toEqual(['hi: hi must not be below lo']);
});

it('takes a ceiling above the floor only', () => {
  const cleanUp = { quietPx: 0, islandsPx: 0, holesPx: 0, edgePx: 0, softenPx: 0, softenBias: 0 };
  expect(refusal(CleanUp, { ...cleanUp, floor: 0.2, ceiling: 0.3 })).toBeUndefined();
  expect(refusal(CleanUp, { ...cleanUp, floor: 0.3, ceiling: 0.3 })).toEqual([
    'ceiling: the ceiling must lie above the floor',
  ]);
});

describe('keyframes of a path', () => {
  const spline = (points: number): Geometry => ({
    form: 'spline',
    points: Array.from({ length: points }, (_, i) => ({ x: i, y: i * i, inX: 0, inY: 0, outX: 0, outY: 0 })),
  });
  const box = (form: 'rectangle' | 'ellipse'): Geometry => ({ form, cx: 1, cy: 2, width: 3, height: 4, turnDeg: 0 });
  const paths = (...values: Geometry[]) => values.map((value, frame) => ({ frame, value, ease: 'linear' }));

  it('are of one form, splines of as many points', () => {
    expect(refusal(PathKeyframes, paths(spline(3), spline(3)))).toBeUndefined();
    expect(refusal(PathKeyframes, paths(box('ellipse'), box('ellipse')))).toBeUndefined();
    const why = [': all keyframes of a path must have the same form and as many points'];
    expect(refusal(PathKeyframes, paths(spline(3), spline(4)))).toEqual(why);
    expect(refusal(PathKeyframes, paths(spline(3), spline(3), spline(4)))).toEqual(why);
    expect(refusal(PathKeyframes, paths(box('ellipse'), box('rectangle')))).toEqual(why);
    expect(refusal(PathKeyframes, paths(box('ellipse'), spline(3)))).toEqual(why);
  });
  it('stand in order, one a frame', () => {
    const [a, b] = paths(spline(3), spline(3));
    const why = [': keyframes must be in ascending order, one a frame'];
    expect(refusal(PathKeyframes, [b, a])).toEqual(why);
    expect(refusal(PathKeyframes, [a, { ...b, frame: 0 }])).toEqual(why);
    expect(refusal(PathKeyframes, [])).toHaveLength(1);
  });
});

describe('a layer', () => {
  const common = {
    id: '0f8b2a34-1111-4222-8333-444455556666',
    name: 'Case',
    on: true,
    mode: 'add',
    invert: false,
    strength: 1,
  };
  it('is told by its kind; keys may have no windows yet', () => {
    for (const kind of ['range', 'rgb', 'luma', 'sample'])
      expect(Layer.parse({ ...common, kind, key: null, picks: [] })).toMatchObject({ kind, key: null });
    expect(Layer.parse({ ...common, kind: 'scribble', strokes: [] })).toMatchObject({ strokes: [] });
    expect(refusal(Layer, { ...common, kind: 'chalk' })).toHaveLength(1);
  });
  it('in a group is no group', () => {
    const inner = { ...common, kind: 'scribble', strokes: [] };
    const group = { ...common, kind: 'group', layers: [inner] };
    expect(refusal(Layer, group)).toBeUndefined();
    expect(refusal(Layer, { ...group, layers: [group] })).toHaveLength(1);
  });
  it('of a key keeps windows of its own kind only', () => {
    const on = { on: true, lo: 0, hi: 1, softLo: 0, softHi: 0 };
    const luma = { ...common, kind: 'luma', picks: [], key: { of: 'luma', luma: on } };
    expect(refusal(Layer, luma)).toBeUndefined();
    expect(refusal(Layer, { ...luma, kind: 'rgb' })).not.toBeUndefined();
  });
});

describe('spill', () => {
  const numbers = { reachPx: 40, amount: 1, tolerance: 0.03 };
  it('that once followed is off, and says that it was', () => {
    expect(Spill.parse({ ...numbers, mode: 'follow' })).toEqual({ ...numbers, mode: 'off', retired: true });
    expect(Spill.parse({ ...numbers, mode: 'remove' })).toEqual({ ...numbers, mode: 'remove' });
    expect(Spill.safeParse({ ...numbers, mode: 'melt' }).success).toBe(false);
    expect(Spill.safeParse(null).success).toBe(false);
  });
});
