// What works in a thread of its own does what is queued as the server's thread would, but for what stays with that.
import { randomUUID } from 'node:crypto';
import { afterAll, beforeAll, expect, it } from 'vitest';
import type { JobId } from '@mellow/contract';
import { findJob } from './db/jobs.ts';
import { queueLookThrough } from './db/keyedWork.ts';
import { queueJob } from './jobs/queue.ts';
import { startHarness, until, type Harness } from './testing/harness.ts';
import { startWorkApart } from './workApart.ts';

let h: Harness;
beforeAll(async () => void (h = await startHarness()));
afterAll(() => h.close());

const of = () => ({ databaseUrl: h.databaseUrl, mediaRoot: h.store.root, level: 'info' as const });
/** A job of which only an error can come: the footage that it names is not there. */
async function queued(): Promise<JobId> {
  const id = randomUUID() as JobId;
  const about = { projectId: null, kind: 'proxy' as const, subject: 'x', title: 'Test', total: 10 };
  await queueJob(h.pool, { ...about, id, payload: { mediaId: randomUUID() } });
  return id;
}
const state = async (id: JobId) => (await findJob(h.pool, id))!.job.state;

it('does jobs, hands on what it logs, and takes nothing more once it is stopped', async () => {
  const waits = randomUUID();
  await queueLookThrough(h.pool, waits);
  const lines: string[] = [];
  const workers = await startWorkApart(of(), (line) => lines.push(line));
  const id = await queued();
  await until('its end', async () => (await state(id)) === 'failed');
  await until('a line of it', async () => lines.length > 0);
  expect(JSON.parse(lines.at(-1)!)).toMatchObject({ level: 50, job: id, msg: 'job failed', pid: process.pid });
  await workers.stop();
  const late = await queued();
  await new Promise((resolve) => setTimeout(resolve, 1500));
  expect(await state(late)).toBe('queued');
  const { rows } = await h.pool.query('select attempts from graphile_worker.jobs where key like $1', [`%${waits}`]);
  expect(rows).toEqual([{ attempts: 0 }]);
  expect(await h.pool.query('select from worker_heartbeat')).toHaveProperty('rowCount', 0);
});
it('says why where it cannot begin', async () => {
  const nowhere = { ...of(), mediaRoot: '/dev/null/media' };
  await expect(startWorkApart(nowhere, () => undefined)).rejects.toThrow('ENOTDIR');
});
