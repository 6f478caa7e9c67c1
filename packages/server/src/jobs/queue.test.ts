// Locks, stops and cancels of the queue: whoever dies, its work is taken up again, once.
import { randomUUID } from 'node:crypto';
import pg from 'pg';
import { afterAll, afterEach, beforeAll, describe, expect, it } from 'vitest';
import type { JobId } from '@mellow/contract';
import { findJob, requestCancel } from '../db/jobs.ts';
import {
  openSignsOfLife,
  releaseDeadWorkers,
  retire,
  SILENCE_SECONDS,
  TIMES_IN_PLACE,
  type SignsOfLife,
} from '../db/workers.ts';
import { queueKeyed } from '../db/keyedWork.ts';
import { startHarness, until, type Harness } from '../testing/harness.ts';
import {
  eachAlone,
  isCancelled,
  queueJob,
  queueJobs,
  requeueJob,
  startWorkers,
  type JobRun,
  type JobsWork,
  type JobWork,
  type KeyedWork,
  type Workers,
} from './queue.ts';

let h: Harness;
let running: Workers | undefined;
beforeAll(async () => void (h = await startHarness()));
afterEach(async () => {
  await running?.stop();
  running = undefined;
  await h.pool.query('delete from graphile_worker._private_jobs');
  await h.pool.query('delete from worker_heartbeat');
  await h.pool.query('delete from job');
});
afterAll(() => h.close());

const log = { info: () => undefined, error: () => undefined };
const refuse = eachAlone(() => Promise.reject(new Error('not of this test')));
const startAll = async (works: { proxy?: JobsWork; render?: JobsWork }, measure: KeyedWork = async () => undefined) => {
  const services = { pool: h.pool, store: h.store, log };
  const jobs = { proxy: refuse, render: refuse, track: refuse, carry: refuse, ...works };
  running = await startWorkers(services, h.databaseUrl, { jobs, keyed: { measure } }, 2);
};
const start = async (proxy: JobWork, measure: KeyedWork = async () => undefined) => {
  await startAll({ proxy: eachAlone(proxy) }, measure);
};
async function queued(): Promise<JobId> {
  const id = randomUUID() as JobId;
  const job = { id, projectId: null, kind: 'proxy' as const, subject: 'x', title: 'Test', total: 10, payload: {} };
  await queueJob(h.pool, job);
  return id;
}
async function queuedTogether(count: number): Promise<JobId[]> {
  const ids = Array.from({ length: count }, () => randomUUID() as JobId);
  const of = { projectId: null, kind: 'render' as const, subject: 'x', title: 'Test', total: 10 };
  await queueJobs(
    h.pool,
    ids.map((id, payload) => ({ ...of, id, payload })),
  );
  return ids;
}
const state = async (id: string) => (await findJob(h.pool, id))!.job.state;
const attempts = async (key: string) =>
  (await h.pool.query<{ attempts: number }>('select attempts from graphile_worker.jobs where key = $1', [key])).rows[0]
    ?.attempts;
/** What a killed process leaves: its lock on the job (and the job's queue), taken so many seconds ago. */
async function lockedBy(worker: string, key: string, secondsAgo: number): Promise<void> {
  const at = 'now() - make_interval(secs => $2)';
  await h.pool.query(`update graphile_worker._private_jobs set locked_by = $1, locked_at = ${at} where key = $3`, [
    worker,
    secondsAgo,
    key,
  ]);
  await h.pool.query(
    `update graphile_worker._private_job_queues set locked_by = $1, locked_at = ${at}
     where id in (select job_queue_id from graphile_worker._private_jobs where key = $3)`,
    [worker, secondsAgo, key],
  );
}
/** Runs until it is told to end; says when it has begun. */
function endless(): { work: JobWork; begun: Promise<void> } {
  let say: () => void = () => undefined;
  const begun = new Promise<void>((resolve) => (say = resolve));
  const work: JobWork = (_services, { signal }) =>
    new Promise((_resolve, reject) => {
      say();
      const end = () => reject(signal.reason as Error);
      // one that is taken just as the others stop begins with a signal that has been given
      if (signal.aborted) end();
      signal.addEventListener('abort', end);
    });
  return { work, begun };
}

describe('locks', () => {
  const opened: SignsOfLife[] = [];
  afterEach(async () => void (await Promise.all(opened.splice(0).map((signs) => signs.end()))));
  /** A worker that says that it lives, and holds a job that is called running. */
  async function working(worker: string, secondsAgo: number, onBroken = () => undefined as void) {
    const signs = openSignsOfLife(h.databaseUrl, onBroken);
    opened.push(signs);
    await signs.beat([worker]);
    const id = await queued();
    await h.pool.query(`update job set state = 'running', started_at = now() where id = $1`, [id]);
    await lockedBy(worker, id, secondsAgo);
    const { rows } = await h.pool.query<{ backend: number }>('select backend from worker_heartbeat where id = $1', [
      worker,
    ]);
    return { id, signs, backend: rows[0]!.backend };
  }
  const stands = async (backend: number) =>
    (await h.pool.query('select 1 from pg_stat_activity where pid = $1', [backend])).rowCount === 1;
  /** Ends a worker's session as the death of its process does. */
  async function killed({ signs, backend }: { signs: SignsOfLife; backend: number }): Promise<void> {
    opened.splice(opened.indexOf(signs), 1);
    await signs.end();
    await until('the end of its session', async () => !(await stands(backend)));
  }
  const nobody = { workers: [], jobs: [] };

  it('of a worker without a sign of life are given back, of jobs and of queues', async () => {
    const id = await queued();
    await queueKeyed(h.pool, 'measure', 'measure:a', { a: 1 }, 0);
    await lockedBy('worker-dead', id, SILENCE_SECONDS + 5);
    await lockedBy('worker-dead-too', 'measure:a', SILENCE_SECONDS + 5);
    expect((await releaseDeadWorkers(h.pool)).workers.sort()).toEqual(['worker-dead', 'worker-dead-too']);
    const { rows } = await h.pool.query(
      `select locked_by from graphile_worker._private_jobs where locked_by is not null
       union all select locked_by from graphile_worker._private_job_queues where locked_by is not null`,
    );
    expect(rows).toEqual([]);
  });
  it('of a worker that lives, and locks just taken, stay', async () => {
    const { id } = await working('worker-alive', 100);
    const young = await queued();
    await lockedBy('worker-new', young, 1);
    expect(await releaseDeadWorkers(h.pool)).toEqual(nobody);
    expect(await state(id)).toBe('running');
  });
  it('of a killed process are given back at once, and its jobs are called waiting', async () => {
    const [dead, alive] = [await working('worker-killed', 0), await working('worker-alive', 0)];
    const others = await queuedTogether(2);
    await h.pool.query(`update job set state = 'running' where id = any($1::uuid[])`, [others]);
    await lockedBy('worker-killed', others[0]!, 0);
    await h.pool.query('update job set cancel_requested = true where id = $1', [others[1]]);
    await killed(dead);
    const { workers, jobs } = await releaseDeadWorkers(h.pool);
    expect(workers).toEqual(['worker-killed']);
    expect(jobs.sort()).toEqual([dead.id, ...others].sort());
    expect(await Promise.all([dead.id, ...others, alive.id].map(state))).toEqual([
      ...['queued', 'queued', 'cancelled'],
      'running',
    ]);
  });
  it('of what outlasts its workers go behind what waits, after a few times in its place', async () => {
    const dead = await working('worker-killed', 0);
    const [often, waiting] = [await queued(), await queued()];
    await lockedBy('worker-killed', often, 0);
    const tried = 'update graphile_worker._private_jobs set attempts = $2 where key = $1';
    await h.pool.query(tried, [dead.id, TIMES_IN_PLACE - 1]);
    await h.pool.query(tried, [often, TIMES_IN_PLACE]);
    await killed(dead);
    await releaseDeadWorkers(h.pool);
    const { rows } = await h.pool.query<{ key: string }>('select key from graphile_worker.jobs order by run_at');
    expect(rows.map((row) => row.key)).toEqual([dead.id, waiting, often]);
  });
  it('of what its workers have died of too often are given back to nobody: it has failed, and says so', async () => {
    const dead = await working('worker-killed', 0);
    const cancelled = await working('worker-killed-too', 0);
    await h.pool.query('update job set cancel_requested = true where id = $1', [cancelled.id]);
    await h.pool.query('update graphile_worker._private_jobs set attempts = max_attempts');
    const waiting = await queued();
    expect(await releaseDeadWorkers(h.pool)).toEqual(nobody);
    await killed(dead);
    await killed(cancelled);
    expect((await releaseDeadWorkers(h.pool)).jobs.sort()).toEqual([dead.id, cancelled.id].sort());
    expect(await Promise.all([dead.id, cancelled.id, waiting].map(state))).toEqual(['failed', 'cancelled', 'queued']);
    expect((await findJob(h.pool, dead.id))!.job.message).toMatch(/^It was begun 100 times, and each time its worker/);
    const { rows } = await h.pool.query<{ key: string }>('select key from graphile_worker.jobs');
    expect(rows.map((row) => row.key)).toEqual([waiting]);
    await requeueJob(h.pool, dead.id);
    expect(await attempts(dead.id)).toBe(0);
  });
  it('of what was queued anew meanwhile are dropped with it, and the new one stands', async () => {
    const dead = await working('worker-killed', 0);
    await requeueJob(h.pool, dead.id);
    await killed(dead);
    await releaseDeadWorkers(h.pool);
    const { rows } = await h.pool.query<{ key: string }>('select key from graphile_worker.jobs');
    expect(rows.map((row) => row.key)).toEqual([dead.id]);
  });
  it('that were given back without a word, the database being away: their jobs are called waiting', async () => {
    const left = await working('worker-stopped', 0);
    const cancelled = await working('worker-stopped-too', 0);
    await h.pool.query('update job set cancel_requested = true where id = $1', [cancelled.id]);
    await retire(h.pool, ['worker-stopped', 'worker-stopped-too']);
    const waiting = await queued();
    expect(await releaseDeadWorkers(h.pool, [left.id, cancelled.id])).toEqual(nobody);
    const { workers, jobs } = await releaseDeadWorkers(h.pool);
    expect([workers, jobs.sort()]).toEqual([[], [left.id, cancelled.id].sort()]);
    expect(await Promise.all([left.id, cancelled.id, waiting].map(state))).toEqual(['queued', 'cancelled', 'queued']);
    expect(await releaseDeadWorkers(h.pool)).toEqual(nobody);
  });
  it('of jobs whose work is gone: they are queued anew, once', async () => {
    const { id } = await working('worker-stopped', 0);
    const waiting = await queued();
    await h.pool.query('delete from graphile_worker._private_jobs');
    expect(await releaseDeadWorkers(h.pool)).toEqual({ workers: [], jobs: [id] });
    await releaseDeadWorkers(h.pool);
    const { rows } = await h.pool.query<{ key: string }>('select key from graphile_worker.jobs');
    expect(rows.map((row) => row.key).sort()).toEqual([id, waiting].sort());
  });
  it('of jobs of which one is retried alone meanwhile: the others are done all the same', async () => {
    const dead = await working('worker-killed', 0);
    const [first, second] = (await queuedTogether(2)) as [JobId, JobId];
    await h.pool.query(`update job set state = case when id = $1 then 'failed' else 'running' end where id = any($2)`, [
      first,
      [first, second],
    ]);
    await lockedBy('worker-killed', first, 0);
    await requeueJob(h.pool, first);
    await killed(dead);
    await startAll({
      proxy: eachAlone(async () => undefined),
      render: eachAlone(async () => undefined),
    });
    for (const id of [first, second]) await until('the job', async () => (await state(id)) === 'done');
  });
  it('stay for a while where the sessions of all ended with the database itself', async () => {
    const worker = await working('worker-alive', 0);
    await killed(worker);
    const before = `pg_postmaster_start_time() - interval '1 minute'`;
    await h.pool.query(`update worker_heartbeat set backend_start = ${before}`);
    expect(await releaseDeadWorkers(h.pool)).toEqual(nobody);
    await h.pool.query(`update worker_heartbeat set at = now() - make_interval(secs => ${SILENCE_SECONDS + 1})`);
    await lockedBy('worker-alive', worker.id, SILENCE_SECONDS + 1);
    expect(await releaseDeadWorkers(h.pool)).toMatchObject({ workers: ['worker-alive'], jobs: [worker.id] });
  });
  it('of a process whose session alone broke stay: it hears of it, and says that it lives by another', async () => {
    let isBroken = false;
    const { signs, backend } = await working('worker-alive', 100, () => void (isBroken = true));
    await h.pool.query('select pg_terminate_backend($1)', [backend]);
    await until('the break', async () => isBroken);
    await signs.beat(['worker-alive']);
    await until('the end of its session', async () => !(await stands(backend)));
    expect(await releaseDeadWorkers(h.pool)).toEqual(nobody);
  });
  it('from before the clock was set back are given back, and what was queued then does not wait', async () => {
    const [held, waiting] = [await queued(), await queued()];
    await lockedBy('worker-of-later', held, -3600);
    await h.pool.query(`insert into worker_heartbeat (id, at) values ('worker-of-later', now() + interval '1 hour')`);
    await h.pool.query(`update graphile_worker._private_jobs set run_at = now() + interval '1 hour' where key = $1`, [
      waiting,
    ]);
    expect((await releaseDeadWorkers(h.pool)).workers).toEqual(['worker-of-later']);
    await start(async () => undefined);
    for (const id of [held, waiting]) await until('the job', async () => (await state(id)) === 'done');
  });
  it('left by a killed process do not stop the others: all queued work is done by who starts next', async () => {
    const id = await queued();
    await queueKeyed(h.pool, 'measure', 'measure:b', { b: 1 }, 0);
    await queueKeyed(h.pool, 'measure', 'measure:c', { c: 1 }, 0);
    await lockedBy('worker-killed', id, SILENCE_SECONDS + 1);
    await lockedBy('worker-killed', 'measure:b', SILENCE_SECONDS + 1);
    const measured: unknown[] = [];
    await start(
      async () => undefined,
      async (_services, payload) => void measured.push(payload),
    );
    await until('the job', async () => (await state(id)) === 'done');
    await until('the measurements', async () => measured.length === 2);
  });
});

describe('a graceful stop', () => {
  it('counts as no failed attempt, leaves no lock, and the next worker takes the job up at once', async () => {
    const id = await queued();
    const { work, begun } = endless();
    await start(work);
    await begun;
    const later = await queued();
    await running!.stop();
    running = undefined;
    expect(await state(id)).toBe('queued');
    expect(await attempts(id)).toBe(0);
    // and it keeps its place before what was asked for since
    const { rows: order } = await h.pool.query('select key from graphile_worker.jobs order by run_at');
    expect(order.map((row: { key: string }) => row.key)).toEqual([id, later]);
    const { rows } = await h.pool.query('select 1 from graphile_worker._private_jobs where locked_by is not null');
    expect(rows).toEqual([]);
    expect((await h.pool.query('select 1 from worker_heartbeat')).rows).toEqual([]);
    await start(async () => undefined);
    await until('the job', async () => (await state(id)) === 'done', 5000);
  });
  it('of keyed work queues it again with the same payload', async () => {
    await queueKeyed(h.pool, 'measure', 'measure:d', { d: 1 }, 0);
    const { work, begun } = endless();
    await start(
      async () => undefined,
      (services, payload, signal) => work(services, { payload, signal, report: () => undefined }),
    );
    await begun;
    await running!.stop();
    running = undefined;
    expect(await attempts('measure:d')).toBe(0);
    const payloads: unknown[] = [];
    await start(
      async () => undefined,
      async (_services, payload) => void payloads.push(payload),
    );
    await until('the work', async () => payloads.length > 0, 5000);
    expect(payloads).toEqual([{ d: 1 }]);
  });
});

describe('a cancel', () => {
  it('ends a waiting job at once, and it is never run', async () => {
    const id = await queued();
    await requestCancel(h.pool, id);
    expect(await state(id)).toBe('cancelled');
    let ran = 0;
    await start(async () => void ran++);
    await until('the queue', async () => (await attempts(id)) === undefined);
    expect(ran).toBe(0);
  });
  it('ends a running job, and its work hears of it', async () => {
    const id = await queued();
    const { work, begun } = endless();
    await start(work);
    await begun;
    await requestCancel(h.pool, id);
    expect(await state(id)).toBe('running');
    await until('the end', async () => (await state(id)) === 'cancelled', 5000);
  });
  it('ends a job whose process has died', async () => {
    const id = await queued();
    await h.pool.query(`update job set state = 'running' where id = $1`, [id]);
    await lockedBy('worker-dead', id, SILENCE_SECONDS + 1);
    await requestCancel(h.pool, id);
    expect(await state(id)).toBe('cancelled');
  });
  it('asked for while the lock was still fresh ends the job when it is taken up again', async () => {
    const id = await queued();
    await h.pool.query(`update job set state = 'running', cancel_requested = true where id = $1`, [id]);
    let ran = 0;
    await start(async () => void ran++);
    await until('the end', async () => (await state(id)) === 'cancelled', 5000);
    expect(ran).toBe(0);
  });
});

describe('jobs queued together', () => {
  const untilAborted = ({ signal }: JobRun) =>
    new Promise<void>((_resolve, reject) =>
      signal.addEventListener('abort', () => reject(signal.reason as Error), { once: true }),
    );

  it('are worked on in one go, and each ends in its own way', async () => {
    const ids = await queuedTogether(3);
    const seen: unknown[] = [];
    const render: JobsWork = (_services, runs) => {
      seen.push(runs.map((run) => run.payload));
      return [Promise.resolve(), Promise.reject(new Error('disk full')), untilAborted(runs[2]!)];
    };
    await startAll({ render });
    await until('the first two', async () => (await state(ids[0]!)) === 'done' && (await state(ids[1]!)) === 'failed');
    expect((await findJob(h.pool, ids[1]!))!.job.message).toBe('disk full');
    await requestCancel(h.pool, ids[2]!);
    // a living worker holds it, by the key of another
    expect(await state(ids[2]!)).toBe('running');
    await until('the cancel', async () => (await state(ids[2]!)) === 'cancelled', 5000);
    expect(seen).toEqual([[0, 1, 2]]);
  });
  it('are taken up again without those that have ended', async () => {
    const ids = await queuedTogether(3);
    await startAll({
      render: (_services, runs) => runs.map((run, i) => (i === 1 ? Promise.resolve() : untilAborted(run))),
    });
    await until('the second', async () => (await state(ids[1]!)) === 'done');
    await running!.stop();
    const seen: unknown[] = [];
    await startAll({
      render: (_services, runs) => {
        seen.push(runs.map((run) => run.payload));
        return runs.map(() => Promise.resolve());
      },
    });
    await until('all', async () => (await Promise.all(ids.map(state))).every((s) => s === 'done'));
    expect(seen).toEqual([[0, 2]]);
  });
  it('are retried alone, while the others go on', async () => {
    const ids = await queuedTogether(2);
    const seen: unknown[] = [];
    const render: JobsWork = (_services, runs) => {
      seen.push(runs.map((run) => run.payload));
      return runs.length === 1 ? [Promise.resolve()] : [Promise.reject(new Error('disk full')), untilAborted(runs[1]!)];
    };
    await startAll({ render });
    await until('the failure', async () => (await state(ids[0]!)) === 'failed');
    await requeueJob(h.pool, ids[0]!);
    await until('the retry', async () => (await state(ids[0]!)) === 'done', 5000);
    expect(await state(ids[1]!)).toBe('running');
    expect(seen).toEqual([[0, 1], [0]]);
  });
});

it('a job that fails says why, and one under which the database went away is tried again', async () => {
  const failing = await queued();
  await start(() => Promise.reject(new Error('the footage is no longer there')));
  await until('the failure', async () => (await state(failing)) === 'failed');
  expect((await findJob(h.pool, failing))!.job.message).toBe('the footage is no longer there');
  await running!.stop();
  const unlucky = await queued();
  let tries = 0;
  await start(() =>
    tries++ === 0 ? Promise.reject(new Error('Connection terminated unexpectedly')) : Promise.resolve(),
  );
  await until('the second try', async () => (await state(unlucky)) === 'done');
  expect(tries).toBe(2);
});

it.each(['taken by another', 'deleted'])(
  'a job that is %s is let go, and nothing of it is written any more',
  async (by) => {
    const id = await queued();
    let [isUnderWay, isLetGo] = [false, false];
    let end = (): void => undefined;
    await start(async (_, { signal, report }) => {
      isUnderWay = true;
      signal.addEventListener('abort', () => (isLetGo = !isCancelled(signal)));
      report(3);
      await new Promise<void>((resolve) => (end = resolve));
    });
    await until('the job', async () => isUnderWay);
    const taken = `update job set started_at = clock_timestamp(), done = 7 where id = $1`;
    await h.pool.query(by === 'deleted' ? 'delete from job where id = $1' : taken, [id]);
    await until('its end', async () => isLetGo);
    end();
    await running!.stop();
    running = undefined;
    const found = await findJob(h.pool, id);
    expect(found && [found.job.state, found.job.done]).toEqual(by === 'deleted' ? undefined : ['running', 7]);
  },
);

it('every change of a job is told with a number that grows, also where it is begun anew', async () => {
  const id = await queued();
  const revision = async () => (await findJob(h.pool, id))!.job.revision;
  const seen = [await revision()];
  await start(async (_services, { report }) => {
    seen.push(await revision());
    report(4);
    await until('its progress', async () => (await findJob(h.pool, id))!.job.done === 4);
    seen.push(await revision());
  });
  await until('its end', async () => (await state(id)) === 'done');
  seen.push(await revision());
  await running!.stop();
  running = undefined;
  await requeueJob(h.pool, id);
  seen.push(await revision());
  expect(seen).toEqual([...new Set(seen)].sort((a, b) => a - b));
});
it('a job that has ended is not told to let go, by signs of progress that are answered after its end', async () => {
  const id = await queued();
  let signal: AbortSignal | undefined;
  let end = (): void => undefined;
  await start((_, run) => {
    signal = run.signal;
    run.signal.addEventListener('abort', () => end());
    return new Promise((resolve) => (end = resolve));
  });
  await until('the job', async () => signal !== undefined);
  const client = await h.pool.connect();
  try {
    await client.query('begin');
    await client.query('select 1 from job where id = $1 for update', [id]);
    // signs of progress wait for the row by now, and its end waits with them
    const locked = `select 1 from pg_stat_activity where datname = current_database() and wait_event_type = 'Lock'`;
    const waiting = async () => (await h.pool.query(locked)).rowCount!;
    await until('signs of progress', async () => (await waiting()) >= 4);
    const before = await waiting();
    end();
    await until('its end', async () => (await waiting()) > before);
  } finally {
    await client.query('commit');
    client.release();
  }
  await until('the end of the job', async () => (await state(id)) === 'done');
  await running!.stop();
  running = undefined;
  expect(signal!.aborted).toBe(false);
});

describe('an end that cannot be stored, since the database has gone just then,', () => {
  let admin: pg.Client;
  beforeAll(async () => {
    admin = new pg.Client({ connectionString: process.env.MELLOW_TEST_DATABASE_URL });
    await admin.connect();
  });
  afterAll(() => admin.end());
  const name = () => new URL(h.databaseUrl).pathname.slice(1);
  const open = () => admin.query(`alter database ${name()} with allow_connections true`);
  /** Nobody gets in, and whoever is in is thrown out. */
  const shut = async () => {
    await admin.query(`alter database ${name()} with allow_connections false`);
    await admin.query('select pg_terminate_backend(pid) from pg_stat_activity where datname = $1', [name()]);
  };
  it.each(['done', 'failed'])('ends neither the process nor the queue: of one that is %s', async (end) => {
    const id = await queued();
    let tries = 0;
    let isShut = false;
    await start(async () => {
      if (tries++ > 0) return;
      await shut();
      isShut = true;
      if (end === 'failed') throw new Error('Connection terminated unexpectedly');
    });
    await until('the end', async () => isShut);
    // long enough for a queue that does not wait to have tried in vain
    await admin.query('select pg_sleep(1.5)');
    await open();
    await until('the job', async () => (await state(id)) === 'done');
    await until('its lock', async () => (await attempts(id)) === undefined);
    const next = await queued();
    await until('the next one', async () => (await state(next)) === 'done');
  });
});

it('work is found though the process stood still while it started, longer than a connection may take', async () => {
  const id = await queued();
  await start(async () => undefined);
  const STILL_MS = 10_500;
  Atomics.wait(new Int32Array(new SharedArrayBuffer(4)), 0, 0, STILL_MS);
  await until('the job', async () => (await state(id)) === 'done');
});
