import { expect, it } from 'vitest';
import type { Job } from '@mellow/contract';
import { secondsLeft } from '../ui/secondsLeft.ts';
import { trayOf } from './trayOf.ts';

const SINCE = Date.parse('2026-01-01T10:00:00Z');
const job = (id: string, state: Job['state'], finishedAt: string | null = null) =>
  ({ id, state, finishedAt, startedAt: '2026-01-01T10:00:00Z', done: 0, total: 10 }) as unknown as Job;
const ids = (jobs: readonly Job[]) => jobs.map((j) => j.id);

it('lists what runs before what waits, and of what ended only what ended since', () => {
  const { underWay, failed, done } = trayOf(
    [
      job('waits', 'queued'),
      job('runs', 'running'),
      job('early', 'done', '2026-01-01T10:01:00Z'),
      job('late', 'done', '2026-01-01T10:02:00Z'),
      job('old', 'done', '2026-01-01T09:59:00Z'),
      job('broke', 'failed', '2026-01-01T10:03:00Z'),
      job('broke before', 'failed', '2026-01-01T09:00:00Z'),
      job('stopped', 'cancelled', '2026-01-01T10:03:00Z'),
      job('seen', 'done', '2026-01-01T10:05:00Z'),
    ],
    SINCE,
    ['seen'],
  );
  expect([ids(underWay), ids(failed), ids(done)]).toEqual([['runs', 'waits'], ['broke'], ['late', 'early']]);
});
it('says how long it takes at the pace it had, once it has one', () => {
  const at = SINCE + 4000;
  expect(secondsLeft({ ...job('a', 'running'), done: 4 }, at)).toBe(6);
  expect(secondsLeft({ ...job('a', 'running'), done: 1 }, at)).toBeUndefined();
  expect(secondsLeft({ ...job('a', 'queued'), startedAt: null, done: 4 }, at)).toBeUndefined();
});
