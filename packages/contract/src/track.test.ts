import { expect, it } from 'vitest';
import { Track, TrackRequest } from './track.ts';

const id = '0f8b2a34-1111-4222-8333-444455556666';
const still = { move: false, turn: false, scale: false, shear: false, perspective: false };
const track = {
  id,
  projectId: id,
  shotId: id,
  name: 'Case',
  referenceFrame: 0,
  region: { form: 'rectangle', cx: 5, cy: 5, width: 4, height: 4, turnDeg: 0 },
  freedom: { ...still, move: true },
  holdOuts: [],
  manual: [],
  runs: [],
};

it('a track may move in at least one way; flexing alone is none', () => {
  for (const kind of Object.keys(still))
    expect(Track.safeParse({ ...track, freedom: { ...still, [kind]: true } }).success).toBe(true);
  const { error } = Track.safeParse({ ...track, freedom: { ...still, flex: true } });
  expect(error!.issues).toMatchObject([
    { path: ['freedom'], message: 'a track must be allowed at least one kind of motion' },
  ]);
});

it('goes over one span of frames or two', () => {
  const spans = (n: number) => ({ trackId: id, spans: Array.from({ length: n }, () => ({ from: 3, to: 9 })) });
  expect([0, 1, 2, 3].map((n) => TrackRequest.safeParse(spans(n)).success)).toEqual([false, true, true, false]);
  expect(TrackRequest.safeParse({ trackId: id, spans: [{ from: -1, to: 2 }] }).success).toBe(false);
});
