import { expect, it } from 'vitest';
import type { Layer, Sighting, Track } from '@mellow/contract';
import type { KnownMotion } from '@mellow/core';
import type { InHand } from '../../inhand/inHand.ts';
import type { Lane } from '../../viewer/lanes.ts';
import { lanesOf, stripsOf } from './lanesOf.ts';
import { newShape } from '../../commands/layers.ts';
import type { Stack } from './useStack.ts';
import type { Tracks } from './useTracks.ts';

const key = (frame: number, value: number) => ({ frame, value, ease: 'linear' as const });
const box = (x: number) => ({ form: 'rectangle' as const, cx: x, cy: 0, width: 10, height: 10, turnDeg: 0 });
const stored: Layer = {
  ...newShape([], box(0)),
  name: 'Round it',
  paths: [
    { frame: 2, value: box(2), ease: 'linear' },
    { frame: 9, value: box(9), ease: 'linear' },
  ],
  animated: { 'feather.outerPx': [key(0, 1), key(5, 3)] },
};
const corners = [
  [0, 0],
  [1, 0],
  [1, 1],
  [0, 1],
] as Track['manual'][number]['corners'];
const track = {
  id: 't',
  name: 'Front',
  referenceFrame: 4,
  manual: [{ frame: 7, corners }],
  holdOuts: [],
  runs: [{ id: 'r', from: 4, to: 9, first: 4, last: 9 }],
} as unknown as Track;

/** Lanes over a stack that keeps what it is told to. */
function made({
  layer = stored,
  animated = {},
  withTrack = false,
}: {
  layer?: Layer;
  animated?: Sighting['animated'];
  withTrack?: boolean;
}) {
  const said: [string, unknown][] = [];
  const keep = (step: string, value: unknown) => void said.push([step, value]);
  const stack = {
    layer: { ...layer, ...(layer.kind === 'shape' && { geometry: box(5) }) },
    storedLayer: () => layer,
    putLayer: keep,
    saveSighting: keep,
  } as unknown as Stack;
  const lanes = lanesOf(
    stack,
    { track: withTrack ? track : undefined, save: keep } as unknown as Tracks,
    { sighting: { animated } } as unknown as InHand,
  );
  return { lanes, said, lane: (label: string): Lane => lanes.find((l) => l.label === label)! };
}

it('has a lane for each animated thing: path and numbers of the layer, the stack, the track by hand', () => {
  const { lanes } = made({ animated: { 'cleanUp.edgePx': [key(3, -1)] }, withTrack: true });
  expect(lanes.map((l) => [l.label, l.keys.map((k) => k.frame)])).toEqual([
    ['Round it: path', [2, 9]],
    [expect.stringMatching(/^Round it: .*feather/i), [0, 5]],
    [expect.stringMatching(/^Stack: .*edge/i), [3]],
    ['Front: by hand', [7]],
  ]);
});
it('has none where nothing is animated', () => expect(made({ layer: newShape([], box(0)) }).lanes).toEqual([]));
it('leaves a path as it stands on the frame in hand when its last keyframe goes', () => {
  const { lane, said } = made({});
  lane('Round it: path').put('Delete keyframes', []);
  expect(said).toEqual([['Delete keyframes', expect.objectContaining({ paths: undefined, geometry: box(5) })]]);
});
it('drops a number from what is animated when its last keyframe goes, and keeps the others', () => {
  const { lanes, said } = made({
    layer: { ...stored, animated: { 'feather.outerPx': [key(0, 1)], strength: [key(1, 1)] } },
  });
  lanes.find((l) => /feather/i.test(l.label))!.put('Delete keyframes', []);
  expect((said[0]![1] as Layer).animated).toEqual({ strength: [key(1, 1)] });
  const only = made({});
  only.lanes.find((l) => /feather/i.test(l.label))!.put('Delete keyframes', []);
  expect((only.said[0]![1] as Layer).animated).toBeUndefined();
});
it('moves the corners that were set by hand with their keyframes', () => {
  const { lane, said } = made({ withTrack: true });
  lane('Front: by hand').put('Move keyframes', [{ frame: 11, value: corners, ease: 'linear' }]);
  expect(said).toEqual([['Move keyframes', expect.objectContaining({ manual: [{ frame: 11, corners }] })]]);
});

it('shows the track’s confidence where it was tracked, full where it was drawn, and why it stopped', () => {
  const known = new Map<number, KnownMotion>([
    [5, { motion: [1, 0, 0, 0, 1, 0, 0, 0, 1], confidence: 0.8, by: 'track' }],
    [7, { motion: [1, 0, 0, 0, 1, 0, 0, 0, 1], confidence: 1, by: 'hand' }],
  ]);
  const runs = [
    { runId: 'r', frames: [], stopped: { frame: 6, reason: 'covered' } },
    { runId: 'of another', frames: [], stopped: { frame: 8, reason: 'no texture' } },
  ];
  const [strip] = stripsOf(
    { track, motion: { referenceFrame: 4, quad: corners, known }, runs } as unknown as Tracks,
    10,
  );
  expect(strip!.values).toEqual([
    undefined,
    undefined,
    undefined,
    undefined,
    1,
    0.8,
    undefined,
    undefined,
    undefined,
    undefined,
  ]);
  expect([strip!.manual, strip!.stops]).toEqual([[7], [{ frame: 6, text: 'stopped: covered' }]]);
  // found after all: a later run went over the frame it had stopped on
  known.set(6, { motion: [1, 0, 0, 0, 1, 0, 0, 0, 1], confidence: 0.6, by: 'track' });
  expect(
    stripsOf({ track, motion: { referenceFrame: 4, quad: corners, known }, runs } as unknown as Tracks, 10)[0]!.stops,
  ).toEqual([]);
  expect(stripsOf({ track: undefined, motion: undefined, runs } as unknown as Tracks, 10)).toEqual([]);
});
