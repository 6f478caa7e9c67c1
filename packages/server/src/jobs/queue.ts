import { run, Logger, type Runner, type TaskList } from 'graphile-worker';
import type pg from 'pg';
import type { Job, JobId } from '@mellow/contract';
import { findJob, finishJob, insertJob, reportProgress, resetJob, startJob, type NewJob } from '../db/jobs.ts';
import type { Queryable } from '../db/pool.ts';
import { beat, forget, releaseSilentWorkers } from '../db/workers.ts';
import type { MediaStore } from '../media/store.ts';

/** What a job needs from its surroundings. */
export interface JobServices {
  pool: pg.Pool;
  store: MediaStore;
  log: { info: (o: object, m: string) => void; error: (o: object, m: string) => void };
}
/** A running job: its payload, progress, and the signal that it was cancelled or the process is stopping. */
export interface JobRun {
  payload: unknown;
  signal: AbortSignal;
  report: (done: number) => void;
}
export type JobWork = (services: JobServices, run: JobRun) => Promise<void>;
/** Work without a row of its own in the job table, keyed so that a newer request replaces a waiting one. */
export type KeyedWork = (services: JobServices, payload: unknown, signal: AbortSignal) => Promise<void>;

class Cancelled extends Error {}
class Stopping extends Error {}

const BEAT_SECONDS = 2;
const SILENCE_SECONDS = 10;

export async function notify(db: Queryable, projectId: string, event: string, data: unknown): Promise<void> {
  await db.query('select pg_notify($1, $2)', ['mellow_events', JSON.stringify({ projectId, event, data })]);
}
async function notifyJob(db: Queryable, id: string): Promise<void> {
  const job = await findJob(db, id);
  if (!job?.projectId) return;
  const { payload: _payload, cancelRequested: _cancel, subject: _subject, ...shown } = job;
  await notify(db, job.projectId, 'job', shown satisfies Job);
}

/** Stores a job and queues it, in the caller's transaction: either both or neither. */
export async function queueJob(db: Queryable, job: NewJob): Promise<void> {
  await insertJob(db, job);
  await enqueue(db, job.id);
  await notifyJob(db, job.id);
}
const enqueue = (db: Queryable, id: string) =>
  db.query(
    `select graphile_worker.add_job('job', json_build_object('id', $1::text), job_key => $1::text, max_attempts => 100)`,
    [id],
  );
export async function requeueJob(db: Queryable, id: JobId): Promise<void> {
  await resetJob(db, id);
  await enqueue(db, id);
  await notifyJob(db, id);
}
/** Queues keyed work a little later, replacing a waiting request with the same key. Work of one kind takes its turn, so that it never holds all the workers there are. */
export async function queueKeyed(
  db: Queryable,
  task: string,
  key: string,
  payload: unknown,
  delaySeconds: number,
): Promise<void> {
  await db.query(
    `select graphile_worker.add_job($1, $2::json, queue_name => $1, job_key => $3, run_at => now() + make_interval(secs => $4), max_attempts => 100)`,
    [task, JSON.stringify(payload), key, delaySeconds],
  );
}

export interface Workers {
  stop: () => Promise<void>;
}

/** Runs queued work in this process until stopped. Any number of processes may do so on one database. */
export async function startWorkers(
  services: JobServices,
  connectionString: string,
  works: Record<Job['kind'], JobWork>,
  keyed: Record<string, KeyedWork>,
  concurrency: number,
): Promise<Workers> {
  const { pool, log } = services;
  const alive = new Set<string>();
  const stopping = new AbortController();
  const known = async (lockedBy: string | null) => {
    if (!lockedBy || alive.has(lockedBy)) return;
    alive.add(lockedBy);
    await beat(pool, [lockedBy]);
  };
  const taskList: TaskList = {
    job: async (payload, helpers) => {
      await known(helpers.job.locked_by);
      await runJob(services, works, (payload as { id: string }).id, stopping.signal);
    },
  };
  for (const [name, work] of Object.entries(keyed))
    taskList[name] = async (payload, helpers) => {
      await known(helpers.job.locked_by);
      await work(services, payload, stopping.signal);
    };
  const quiet = new Logger(
    () => (level, message) => (level === 'error' && !stopping.signal.aborted ? log.error({}, message) : undefined),
  );
  const runner: Runner = await run({
    connectionString,
    concurrency,
    taskList,
    noHandleSignals: true,
    logger: quiet,
    pollInterval: 1000,
  });
  const tick = async () => {
    if (alive.size > 0) await beat(pool, [...alive]);
    const silent = await releaseSilentWorkers(pool, SILENCE_SECONDS);
    if (silent.length > 0) log.info({ silent }, 'took back the jobs of workers that were killed');
  };
  await tick();
  const timer = setInterval(
    () => void tick().catch((error: unknown) => log.error({ error }, 'heartbeat')),
    BEAT_SECONDS * 1000,
  );
  return {
    stop: async () => {
      clearInterval(timer);
      stopping.abort(new Stopping());
      await runner.stop();
      await forget(pool, [...alive]).catch(() => undefined);
    },
  };
}

async function runJob(
  services: JobServices,
  works: Record<Job['kind'], JobWork>,
  id: string,
  stopping: AbortSignal,
): Promise<void> {
  const { pool, log } = services;
  if (!(await startJob(pool, id))) return;
  const job = await findJob(pool, id);
  if (!job) return;
  const controller = new AbortController();
  const onStop = () => controller.abort(new Stopping());
  stopping.addEventListener('abort', onStop);
  let done = 0;
  let shown = -1;
  const sync = async () => {
    const { cancelRequested } = await reportProgress(pool, id, done);
    if (cancelRequested) controller.abort(new Cancelled());
    if (done !== shown) await notifyJob(pool, id);
    shown = done;
  };
  const timer = setInterval(() => void sync().catch(() => undefined), 300);
  try {
    await notifyJob(pool, id);
    await works[job.kind](services, { payload: job.payload, signal: controller.signal, report: (n) => (done = n) });
    await finishJob(pool, id, 'done', null);
  } catch (error) {
    const reason: unknown = controller.signal.aborted ? controller.signal.reason : error;
    if (reason instanceof Stopping) throw reason; // stays `running`; the queue hands it to the next worker
    if (reason instanceof Cancelled) await finishJob(pool, id, 'cancelled', null);
    else {
      log.error({ error, job: id, kind: job.kind }, 'job failed');
      await finishJob(pool, id, 'failed', error instanceof Error ? error.message : String(error));
    }
  } finally {
    clearInterval(timer);
    stopping.removeEventListener('abort', onStop);
    await notifyJob(pool, id).catch(() => undefined);
  }
}
