import { expect, it } from 'vitest';
import type { Job, RunResult } from '@mellow/contract';
import { addCarried, addFound, withJob } from './arrivals.ts';

const job = (id: string, done: number, revision = done + 1): Job =>
  ({
    id,
    projectId: null,
    kind: 'track',
    title: id,
    state: 'running',
    done,
    total: 10,
    message: null,
    createdAt: '2026-01-01T00:00:00.000Z',
    startedAt: null,
    finishedAt: null,
    revision,
  }) as Job;
const found = (frame: number, confidence: number) =>
  ({ frame, motion: [1, 0, 0, 0, 1, 0, 0, 0, 1], confidence }) as RunResult['frames'][number];
const runOf = (runs: RunResult[]) => runs[0]!.frames.map((f) => [f.frame, f.confidence]);

it('puts a new job first and a known one in its place', () => {
  const jobs = [job('b', 0), job('a', 3)];
  withJob(jobs, job('c', 0));
  withJob(jobs, job('a', 7));
  expect(jobs.map((j) => [j.id, j.done])).toEqual([
    ['c', 0],
    ['b', 0],
    ['a', 7],
  ]);
});
it('takes nothing of a job that is older than what was told before', () => {
  const jobs = [{ ...job('a', 7), state: 'cancelled' } as Job];
  withJob(jobs, job('a', 6));
  expect(jobs[0]!.state).toBe('cancelled');
  // begun anew: fewer are done, but later
  withJob(jobs, job('a', 0, 9));
  expect(jobs[0]).toMatchObject({ state: 'running', done: 0 });
});
it('keeps a run’s frames in order, whichever way it goes, and the newer of two', () => {
  const runs: RunResult[] = [];
  const tell = (...frames: RunResult['frames']) => addFound(runs, { runId: 'r', frames, stopped: null });
  tell(found(10, 0.9));
  tell(found(9, 0.8));
  tell(found(11, 0.7), found(12, 0.6));
  tell(found(9, 0.5));
  expect(runOf(runs)).toEqual([
    [9, 0.5],
    [10, 0.9],
    [11, 0.7],
    [12, 0.6],
  ]);
});
it('knows where a run stopped, and that it goes on', () => {
  const runs: RunResult[] = [];
  const tell = (stopped: RunResult['stopped']) => addFound(runs, { runId: 'r', frames: [], stopped });
  tell({ frame: 7, reason: 'covered' });
  expect(runs[0]!.stopped).toEqual({ frame: 7, reason: 'covered' });
  tell(null);
  expect(runs).toHaveLength(1);
  expect(runs[0]!.stopped).toBeNull();
});

it('takes frames that a selection was carried to in order, each once, and says when one was missed', () => {
  const carried: Record<string, number[]> = {};
  const take = (count: number, certainty: number) => addCarried(carried, { runId: 'r', count, certainty });
  expect([take(1, 0.9), take(2, 0.8), take(2, 0.8)]).toEqual([true, true, true]);
  expect(take(4, 0.5)).toBe(false);
  expect(carried).toEqual({ r: [0.9, 0.8] });
});
