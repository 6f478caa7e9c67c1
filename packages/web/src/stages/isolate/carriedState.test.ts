import { expect, it } from 'vitest';
import type { ScribbleLayer } from '@mellow/contract';
import { passesNeeded } from '@mellow/core';
import { carriedStateOf, carriedStrips, doubtfulFrames, nextDoubtful } from './carriedState.ts';

const SPAN = { from: 2, to: 12 };
const strokes: ScribbleLayer['strokes'] = [{ sign: 'in', widthPx: 8, points: [[1, 1]], frame: 5 }];
const layer = (carried: ScribbleLayer['carried']) =>
  ({ name: 'Scribble 1', kind: 'scribble', strokes, carried }) as ScribbleLayer;
const [forth, back] = passesNeeded({ strokes }, SPAN) as [
  { from: number; to: number; strokes: string },
  { from: number; to: number; strokes: string },
];
const carried = [
  { ...forth, id: 'f' },
  { ...back, id: 'b' },
];
const found = { f: [0.95, 0.8, 0.5, 0.7, 0.99, 0, 0.95], b: [0.9, 0.85] };

it('says how sure each frame is: of strokes, as found, or not carried there', () => {
  const { certainties, taught } = carriedStateOf(layer(carried), found, SPAN);
  expect(taught).toEqual([5]);
  expect(certainties).toEqual([undefined, undefined, undefined, 0.85, 0.9, 1, 0.95, 0.8, 0.5, 0.7, 0.99, 0, 0.95]);
});
it('is due while a pass is missing, was broken off, or set out from strokes that have changed', () => {
  const whole = { ...found, b: [0.9, 0.85, 0.8] };
  expect(carriedStateOf(layer(carried), whole, SPAN).isDue).toBe(false);
  expect(carriedStateOf(layer(carried), found, SPAN).isDue).toBe(true);
  expect(carriedStateOf(layer([]), {}, SPAN).isDue).toBe(true);
  const other = { ...layer(carried), strokes: [{ ...strokes[0]!, widthPx: 9 }] };
  expect(carriedStateOf(other, whole, SPAN).isDue).toBe(true);
});
it('between two frames with strokes is as sure as what came from either, by how much it counts', () => {
  const two = [...strokes, { ...strokes[0]!, frame: 9 }];
  const runs = passesNeeded({ strokes: two }, SPAN).map((r, i) => ({ ...r, id: `${i}` }));
  // 5 → 9, 5 → 2, 9 → 12, 9 → 5
  const state = carriedStateOf({ ...layer(runs), strokes: two }, { 0: [1, 1, 1, 1], 3: [0.6, 0.6, 0.6, 0.6] }, SPAN);
  // the surer counts for more: 0.75 · 1⁴ to 0.25 · 0.6⁴
  const share = 0.75 / (0.75 + 0.25 * 0.6 ** 4);
  expect(state.certainties[6]).toBeCloseTo(share + (1 - share) * 0.6);
});
it('leads to the least sure frame of the next doubtful run, either way, and out of the one in hand', () => {
  const state = carriedStateOf(layer(carried), found, SPAN);
  expect([...doubtfulFrames(state)]).toEqual([3, 7, 8, 9, 11]);
  expect(nextDoubtful(state, 5, 1)).toBe(8);
  expect(nextDoubtful(state, 8, 1)).toBe(11);
  expect(nextDoubtful(state, 11, 1)).toBeUndefined();
  expect(nextDoubtful(state, 12, -1)).toBe(11);
  expect(nextDoubtful(state, 11, -1)).toBe(8);
  expect(nextDoubtful(state, 5, -1)).toBe(3);
});
it('is shown as a strip, the frames with strokes marked, what is out of sight in words', () => {
  const [strip] = carriedStrips(layer(carried), carriedStateOf(layer(carried), found, SPAN));
  expect(strip).toMatchObject({ label: 'Scribble 1: certainty', manual: [5] });
  expect([strip!.text!(0), strip!.text!(0.876)]).toEqual(['out of sight', '0.88']);
  expect(carriedStrips(undefined, undefined)).toEqual([]);
});
