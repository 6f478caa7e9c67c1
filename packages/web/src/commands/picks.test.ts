import { describe, expect, it } from 'vitest';
import type { PickedRegion, RangeLayer } from '@mellow/contract';
import { oklabFromLinear709 } from '@mellow/core';
import { keyForPick, pickOnFrame, rectMovedTo, solveKey, takePick } from './picks.ts';
import { at, documentWith, key, layersAfter, shape } from './testing.ts';

const colour = (r: number, g: number, b: number) => oklabFromLinear709([r, g, b]);
const pick = (sign: 'add' | 'remove', ...samples: ReturnType<typeof colour>[]): PickedRegion => ({
  sign,
  frame: 3,
  x0: 10,
  y0: 20,
  x1: 14,
  y1: 26,
  samples,
});
const red = pick('add', colour(0.4, 0.05, 0.05), colour(0.42, 0.05, 0.06));

describe('the key a pick goes to', () => {
  it('is the one in hand, else the first that is free, else none', () => {
    const layers = [shape('s'), key('a', { locked: true }), key('b'), key('c')];
    expect(keyForPick(layers, 'c')?.id).toBe('c');
    expect(keyForPick(layers, 'a')?.id).toBe('b');
    expect(keyForPick(layers, null)?.id).toBe('b');
    expect(keyForPick([shape('s'), key('a', { locked: true })], null)).toBeUndefined();
  });
});

describe('a pick', () => {
  it('makes a key where there is none, below the layers there are', () => {
    const document = documentWith([shape('s')]);
    const { change, layerId } = takePick(document, at(3), red)!;
    const layers = layersAfter(document, change);
    expect([change.label, layers[0]!.id, layers[1]!.id]).toEqual(['Pick a colour for Range key 1', 's', layerId]);
    const made = layers[1] as RangeLayer;
    expect(made.picks).toEqual([red]);
    expect(made.key!.hue.lo).toBeLessThan(made.key!.hue.hi);
  });
  it('widens the key in hand and leaves numbers that were set by hand', () => {
    const first = takePick(documentWith([]), at(3), red)!;
    const [solved] = layersAfter(documentWith([]), first.change) as [RangeLayer];
    const byHand = { ...solved, key: { ...solved.key!, lightness: { ...solved.key!.lightness, softHi: 0.33 } } };
    const document = documentWith([byHand]);
    const wider = takePick(document, at(3), pick('add', colour(0.4, 0.2, 0.05)))!;
    const [next] = layersAfter(document, wider.change) as [RangeLayer];
    expect(next.picks).toHaveLength(2);
    expect(next.key!.hue.hi - next.key!.hue.lo).toBeGreaterThan(byHand.key.hue.hi - byHand.key.hue.lo);
    expect(next.key!.lightness.softHi).toBe(0.33);
  });
  it('cannot be taken out of a key that selects nothing', () => {
    expect(takePick(documentWith([key('a')]), at(3), pick('remove', colour(0.1, 0.1, 0.1)))).toBeUndefined();
    expect(takePick(documentWith([]), at(3, { shotId: undefined }), red)).toBeUndefined();
  });
  it('solved again from all picks forgets numbers set by hand', () => {
    const document = documentWith([]);
    const [solved] = layersAfter(document, takePick(document, at(3), red)!.change) as [RangeLayer];
    const byHand = { ...solved, key: { ...solved.key!, hue: { ...solved.key!.hue, lo: -100 } } };
    const change = solveKey(documentWith([byHand]), at(3), 'Solve', byHand, byHand.picks);
    const [again] = layersAfter(documentWith([byHand]), change) as [RangeLayer];
    expect(again.key).toEqual(solved.key);
  });
});

describe('where a pick lies', () => {
  it('is moved by its centre', () =>
    expect(rectMovedTo(red, { x: 112, y: 123 })).toEqual({ x0: 110, y0: 120, x1: 114, y1: 126 }));
  it('on another frame is where its track has taken it', () => {
    const quad = [
      [0, 0],
      [100, 0],
      [100, 100],
      [0, 100],
    ] as const;
    const still = [1, 0, 0, 0, 1, 0, 0, 0, 1] as const;
    const moved = [1, 0, 30, 0, 1, -8, 0, 0, 1] as const;
    const known = new Map([3, 9].map((f) => [f, { by: 'track', motion: f === 9 ? moved : still, confidence: 1 }]));
    const motion = { referenceFrame: 3, quad, known } as never;
    const follow = { trackId: 't', move: true, turn: true, scale: true, shear: true, perspective: true };
    const following = key('a', { follow });
    const there = pickOnFrame(following, red, at(9, { motions: new Map([['t', motion]]) }));
    expect([there.frame, there.x0, there.y0, there.x1 - there.x0]).toEqual([
      9,
      expect.closeTo(40, 6),
      expect.closeTo(12, 6),
      expect.closeTo(4, 6),
    ]);
    // without the track, or on its own frame, it is where it was made
    expect(pickOnFrame(following, red, at(9))).toBe(red);
    expect(pickOnFrame(key('a'), red, at(9))).toBe(red);
  });
});
