import { expect, it } from 'vitest';
import type { RunResult, Track } from '@mellow/contract';
import type { TrackMotion } from '@mellow/core';
import { trackTrouble } from './trackTrouble.ts';

const track = { name: 'Track 1', referenceFrame: 0, runs: [{ id: 'r' }], manual: [] } as unknown as Track;
const knownUpTo = (last: number) =>
  ({ known: new Map(Array.from({ length: last + 1 }, (_, f) => [f, {}])) }) as unknown as TrackMotion;
const stopped = (frame: number, reason: string) =>
  [{ runId: 'r', frames: [], stopped: { frame, reason } }] as unknown as RunResult[];

it('says where a track stops and why, with what to try', () => {
  const said = trackTrouble(track, knownUpTo(22), stopped(23, 'covered'), 48);
  expect(said).toMatch(/^Track 1 stops at frame 23: it is covered\. Try: draw a hold-out/);
  expect(trackTrouble(track, knownUpTo(22), stopped(23, 'no texture'), 48)).toMatch('a larger region');
});
it('has nothing to say of a track that holds, or that has gone on since it stopped', () => {
  expect(trackTrouble(track, knownUpTo(47), [], 48)).toBeUndefined();
  expect(trackTrouble(track, knownUpTo(47), stopped(23, 'covered'), 48)).toBeUndefined();
  expect(trackTrouble(track, knownUpTo(30), stopped(23, 'covered'), 48)).toBeUndefined();
});
it('says of one that was never run, or is gone, that what follows it stays still', () => {
  expect(trackTrouble({ ...track, runs: [] }, knownUpTo(0), [], 48)).toMatch('has not been run yet');
  expect(trackTrouble(undefined, undefined, [], 48)).toMatch('a track that is gone');
});
it('counts keyframes set by hand as running it', () =>
  expect(
    trackTrouble({ ...track, runs: [], manual: [{ frame: 3 }] } as unknown as Track, knownUpTo(3), [], 48),
  ).toBeUndefined());
