import { describe, expect, it } from 'vitest';
import type { CarryRun } from '../document/carried.ts';
import type { Stroke } from '../document/layer.ts';
import { carriedFrom } from './carriedFrom.ts';
import { passesNeeded, strokesMark, taughtFrames } from './carryPlan.ts';

const stroke = (frame: number | undefined, x = 10): Stroke => ({
  sign: 'in',
  widthPx: 8,
  points: [[x, 10]],
  ...(frame !== undefined && { frame }),
});
const run = (id: string, from: number, to: number, found: number, strokes = ''): CarryRun => ({
  id,
  from,
  to,
  found: new Array<number>(found).fill(0.9),
  strokes,
});

it('carries from the frames that have strokes, each once, in order', () =>
  expect(taughtFrames([stroke(9), stroke(undefined), stroke(2), stroke(9, 40)])).toEqual([2, 9]));

describe('passes needed', () => {
  const frames = { from: 0, to: 20 };
  it('go from each frame with strokes to the next on either side, or to the ends', () => {
    const strokes = [stroke(5), stroke(12)];
    expect(passesNeeded({ strokes }, frames).map(({ from, to }) => [from, to])).toEqual([
      [5, 12],
      [5, 0],
      [12, 20],
      [12, 5],
    ]);
  });
  it('are none at an end of the shot, nor from strokes outside of it', () =>
    expect(passesNeeded({ strokes: [stroke(0), stroke(33)] }, frames).map((p) => [p.from, p.to])).toEqual([[0, 20]]));
  it('are not those that stand: from the same strokes, as far or further', () => {
    const strokes = [stroke(5)];
    const carried = passesNeeded({ strokes }, frames).map((p, i) => ({ ...p, id: `${i}` }));
    expect(passesNeeded({ strokes, carried }, frames)).toEqual([]);
    expect(passesNeeded({ strokes, carried }, frames, true)).toHaveLength(2);
    // a correction on frame 12: only what lies about it is carried again
    const corrected = [...strokes, stroke(12)];
    expect(passesNeeded({ strokes: corrected, carried }, frames).map((p) => [p.from, p.to])).toEqual([
      [12, 20],
      [12, 5],
    ]);
    // strokes of frame 5 that have changed
    expect(passesNeeded({ strokes: [stroke(5, 11)], carried }, frames)).toHaveLength(2);
  });
  it('are told apart by what the strokes on their first frame are, wherever they stand in the list', () => {
    const [a, b] = [stroke(5), stroke(9)];
    expect(strokesMark([a, b], 5)).toBe(strokesMark([b, a], 5));
    expect(strokesMark([a], 5)).not.toBe(strokesMark([a, stroke(5, 11)], 5));
    expect(strokesMark([a], 5)).toMatch(/^[0-9a-f]{8}$/);
  });
});

describe('what counts on a frame', () => {
  const counting = (carried: CarryRun[], frame: number, taught = carried.map(({ from }) => from)) =>
    carriedFrom({ strokes: taught.map((f) => stroke(f)), carried }, frame);
  it('comes from the nearest frame with strokes on either side, the nearer for more', () => {
    const runs = [run('a', 4, 20, 16), run('b', 12, 20, 8), run('c', 12, 4, 8)];
    expect(counting(runs, 6)).toEqual([
      { runId: 'a', frame: 6, weight: 0.75 },
      { runId: 'c', frame: 6, weight: 0.25 },
    ]);
    expect(counting(runs, 15)).toEqual([{ runId: 'b', frame: 15, weight: 1 }]);
  });
  it('is mostly what is sure: a pass that has lost the piece does not spoil one that has not', () => {
    const lost = { ...run('c', 12, 4, 8), found: new Array<number>(8).fill(0.3) };
    const [before, after] = counting([run('a', 4, 20, 16), lost], 8);
    expect(before!.weight).toBeCloseTo(0.9 ** 4 / (0.9 ** 4 + 0.3 ** 4), 10);
    expect(after!.weight).toBeCloseTo(1 - before!.weight, 10);
    // sure again, but of what?
    const since = { ...lost, found: [0.9, 0.3, 0.9, 0.9, 0.9, 0.9, 0.9, 0.9] };
    expect(counting([run('a', 4, 20, 16), since], 8)[0]!.weight).toBeCloseTo(before!.weight, 10);
    const unseen = { ...lost, found: new Array<number>(8).fill(0) };
    expect(counting([run('a', 4, 20, 16), unseen], 11)[0]!.weight).toBeGreaterThan(0.99);
  });
  it('is the last pass of those from one frame, and nothing that has not been found yet', () => {
    expect(counting([run('old', 4, 9, 5), run('new', 4, 9, 5)], 7)).toMatchObject([{ runId: 'new' }]);
    expect(counting([run('old', 4, 9, 5), run('new', 4, 9, 2)], 7)).toMatchObject([{ runId: 'old' }]);
    expect(counting([run('old', 4, 9, 2)], 7)).toEqual([]);
    expect(counting([run('back', 4, 0, 2)], 1)).toEqual([]);
    expect(counting([run('back', 4, 0, 2)], 2)).toMatchObject([{ runId: 'back', weight: 1 }]);
  });
  it('is, before a correction is carried, what was carried before', () =>
    expect(counting([run('a', 4, 20, 16), run('b', 12, 20, 3)], 18)).toMatchObject([{ runId: 'a' }]));
  it('on a frame with strokes is what came there from elsewhere', () =>
    expect(counting([run('a', 4, 20, 16), run('b', 12, 20, 8)], 12)).toMatchObject([{ runId: 'a' }]));
  it('on the first of them is nothing that a later correction carries back: what was right there stays', () => {
    const runs = [run('a', 4, 20, 16), run('b', 12, 20, 8), run('c', 12, 4, 8), run('anew', 4, 12, 8)];
    expect(counting(runs, 4)).toEqual([]);
    // a correction goes by the last pass from what was there before it
    expect(counting(runs, 12)).toMatchObject([{ runId: 'anew' }]);
    // a frame that was given strokes and not carried from yet, by all
    expect(counting(runs, 8, [4, 8, 12]).map((c) => c.runId)).toEqual(['anew', 'c']);
  });
  it('is nothing that came from strokes which have been taken away', () =>
    expect(counting([run('a', 4, 20, 16), run('b', 12, 20, 8)], 16, [4])).toMatchObject([{ runId: 'a' }]));
});
