import { expect, it } from 'vitest';
import type { RunResult, Track } from '@mellow/contract';
import type { TrackMotion } from '@mellow/core';
import { trackTrouble } from './trackTrouble.ts';

const track = { name: 'Track 1', referenceFrame: 0, runs: [{ id: 'r' }], manual: [] } as unknown as Track;
const knownUpTo = (last: number) =>
  ({ known: new Map(Array.from({ length: last + 1 }, (_, f) => [f, {}])) }) as unknown as TrackMotion;
const stopped = (frame: number, reason: string) =>
  [{ runId: 'r', frames: [], stopped: { frame, reason } }] as unknown as RunResult[];

const ALL = { from: 0, to: 47 };

it('says where a track stops and why, with what to try', () => {
  const said = trackTrouble(track, knownUpTo(22), stopped(23, 'covered'), ALL);
  expect(said).toMatch(/^Track 1 stops at frame 23: it is covered\. Try: draw a hold-out/);
  expect(trackTrouble(track, knownUpTo(22), stopped(23, 'no texture'), ALL)).toMatch('a larger region');
});
it('has nothing to say of a track that holds, or that has gone on since it stopped', () => {
  expect(trackTrouble(track, knownUpTo(47), [], ALL)).toBeUndefined();
  expect(trackTrouble(track, knownUpTo(47), stopped(23, 'covered'), ALL)).toBeUndefined();
  expect(trackTrouble(track, knownUpTo(30), stopped(23, 'covered'), ALL)).toBeUndefined();
});
it('has nothing to say of a stop beyond the frames that the shot shows', () => {
  expect(trackTrouble(track, knownUpTo(22), stopped(23, 'covered'), { from: 0, to: 22 })).toBeUndefined();
  expect(trackTrouble(track, knownUpTo(22), stopped(23, 'covered'), { from: 5, to: 23 })).toBeDefined();
});
it('says of one that was never run, or is gone, that what follows it stays still', () => {
  expect(trackTrouble({ ...track, runs: [] }, knownUpTo(0), [], ALL)).toMatch('has not been run yet');
  expect(trackTrouble(undefined, undefined, [], ALL)).toMatch('a track that is gone');
});
it('counts keyframes set by hand as running it', () =>
  expect(
    trackTrouble({ ...track, runs: [], manual: [{ frame: 3 }] } as unknown as Track, knownUpTo(3), [], ALL),
  ).toBeUndefined());
