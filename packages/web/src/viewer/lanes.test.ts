import { expect, it } from 'vitest';
import { nameInWords } from '../keyframing/names.ts';
import { chosenKeyframe, chosenOf, laneRows, nextKeyframe, type Lane } from './lanes.ts';

const lane = (id: string, ...frames: number[]): Lane => ({
  id,
  label: id,
  keys: frames.map((frame) => ({ frame, value: 0, ease: 'linear' })),
  put: () => undefined,
});

it('finds the next keyframe either way over all lanes', () => {
  const lanes = [lane('a', 3, 20), lane('b', 9)];
  expect([
    nextKeyframe(lanes, 3, 1),
    nextKeyframe(lanes, 10, -1),
    nextKeyframe(lanes, 20, 1),
    nextKeyframe(lanes, 3, -1),
  ]).toEqual([9, 9, undefined, undefined]);
});
it('tells the chosen frames of one lane from those of another whose name begins alike', () => {
  const chosen = [chosenKeyframe('spline', 4), chosenKeyframe('spline', 9), chosenKeyframe('spline 2', 7)];
  expect([...chosenOf(chosen, 'spline')]).toEqual([4, 9]);
  expect([...chosenOf(chosen, 'spline 2')]).toEqual([7]);
});
it('says a number’s dotted name in words', () => {
  expect(
    ['cleanUp.edgePx', 'feather.outerPx', 'shift.hueDeg', 'strength', 'placement.turnDeg', 'key.hue.softLo'].map(
      nameInWords,
    ),
  ).toEqual(['clean-up edge', 'feather outer', 'shift hue', 'strength', 'placement turn', 'key hue soft lo']);
});
it('puts lanes of one owner together, and folded into one row with the frames of all', () => {
  const lanes = [lane('Box: path', 3, 20), lane('Stack: edge', 5), lane('Box: strength', 3, 9)];
  const shown = (folded: string[]) =>
    laneRows(lanes, folded).map((r) => [r.lane.label, r.group, r.lane.keys.map((k) => k.frame).join()]);
  expect(shown([])).toEqual([
    ['Box: path', 'Box', '3,20'],
    ['Box: strength', undefined, '3,9'],
    ['Stack: edge', undefined, '5'],
  ]);
  expect(shown(['Box'])).toEqual([
    ['Box: 2 lanes', 'Box', '3,9,20'],
    ['Stack: edge', undefined, '5'],
  ]);
});
