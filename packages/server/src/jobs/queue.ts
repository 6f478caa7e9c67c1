import { EventEmitter } from 'node:events';
import { Logger, run, type Runner, type TaskList, type WorkerEvents } from 'graphile-worker';
import pRetry from 'p-retry';
import type pg from 'pg';
import { z } from 'zod';
import type { Job, JobId } from '@mellow/contract';
import { enqueueJobs } from '../db/enqueueJobs.ts';
import {
  cancelUnstarted,
  findJob,
  finishJob,
  insertJob,
  leaveJob,
  reportProgress,
  resetJob,
  startJob,
  type NewJob,
} from '../db/jobs.ts';
import { queueKeyed } from '../db/keyedWork.ts';
import { notify } from '../db/notify.ts';
import { isDatabaseAway, openPool, type Queryable } from '../db/pool.ts';
import { openSignsOfLife, releaseDeadWorkers, retire } from '../db/workers.ts';
import { diskFaultOf } from '../media/diskFaults.ts';
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
/** Work for jobs that were queued together and share most of it: an end for each, in their order. */
export type JobsWork = (services: JobServices, runs: readonly JobRun[]) => readonly Promise<void>[];
/** Work that shares nothing between jobs. */
export const eachAlone =
  (work: JobWork): JobsWork =>
  (services, runs) =>
    runs.map((run) => work(services, run));
/** Work without a row of its own in the job table; see db/keyedWork. */
export type KeyedWork = (services: JobServices, payload: unknown, signal: AbortSignal) => Promise<void>;

class Cancelled extends Error {}
class Stopping extends Error {}
/** Somebody else has taken the job, while this process was cut off, or it is gone. */
class Lost extends Error {}
/** Was a job cancelled, rather than left for the next worker? */
export const isCancelled = (signal: AbortSignal): boolean => signal.reason instanceof Cancelled;

/** Jobs that this process works on: one that is retried while those queued with it are taken up anew is run once. */
const underWay = new Set<string>();

const BEAT_SECONDS = 2;
/** How the database is waited for while it is away. */
const PATIENCE = { retries: Infinity, minTimeout: 500, maxTimeout: 5000 };

async function notifyJob(db: Queryable, id: string): Promise<void> {
  const found = await findJob(db, id);
  if (found?.job.projectId) await notify(db, found.job.projectId, 'job', found.job);
}

/** Stores a job and queues it, in the caller's transaction: either both or neither. */
export const queueJob = (db: Queryable, job: NewJob): Promise<void> => queueJobs(db, [job]);
/** The same for jobs of one kind that are worked on together: at least one. */
export async function queueJobs(db: Queryable, jobs: readonly NewJob[]): Promise<void> {
  for (const job of jobs) await insertJob(db, job);
  const ids = jobs.map((job) => job.id);
  await enqueueJobs(db, ids);
  for (const id of ids) await notifyJob(db, id);
}
export async function requeueJob(db: Queryable, id: JobId): Promise<void> {
  await resetJob(db, id);
  await enqueueJobs(db, [id]);
  await notifyJob(db, id);
}
/** `id`: as it was queued before jobs were worked on together. */
const Queued = z.union([
  z.object({ ids: z.array(z.uuid()).min(1) }),
  z.object({ id: z.uuid() }).transform(({ id }) => ({ ids: [id] })),
]);
export interface Workers {
  stop: () => Promise<void>;
}

/** What workers take: jobs of all kinds or none, and keyed work by its names. */
export interface Takes {
  jobs?: Record<Job['kind'], JobsWork>;
  keyed: Record<string, KeyedWork>;
}
/**
 * Runs queued work in this thread until stopped, so much at once. Any number of processes may do so on one database.
 */
export async function startWorkers(
  services: JobServices,
  connectionString: string,
  { jobs, keyed }: Takes,
  concurrency: number,
): Promise<Workers> {
  const { pool, log } = services;
  const alive = new Set<string>();
  const stopping = new AbortController();
  const told = (error: unknown) => log.error({ error }, 'heartbeat');
  const beat = async () => {
    if (alive.size > 0) await signs.beat([...alive]);
  };
  const signs = openSignsOfLife(connectionString, () => void beat().catch(told), jobs !== undefined);
  const tick = async () => {
    await beat();
    const { workers, jobs } = await releaseDeadWorkers(pool, [...underWay]);
    if (workers.length + jobs.length > 0) log.info({ workers, jobs }, 'took back what nobody works on any more');
    for (const id of jobs) await notifyJob(pool, id);
  };
  await tick();
  const events = new EventEmitter() as WorkerEvents;
  // locks are taken in the name of the runner's pool of workers: known before it takes its first job
  events.on('pool:create', ({ workerPool }) => void alive.add(workerPool.id));
  /**
   * Work that a stop or an outage of the database breaks off is queued again, as soon as it can be, and counts as no
   * failed attempt. What else fails is told to the queue once that can store it: it does not wait for its database.
   */
  const broken = async (error: unknown, again: () => Promise<unknown>): Promise<void> => {
    if (error instanceof Stopping) return void (await again());
    const isAway = isDatabaseAway(error);
    await pRetry(isAway ? again : () => pool.query('select 1'), { ...PATIENCE, signal: stopping.signal });
    if (!isAway) throw error;
  };
  const taskList: TaskList = {};
  if (jobs)
    taskList.job = async (payload) => {
      const { ids } = Queued.parse(payload);
      const again = () => enqueueJobs(pool, ids);
      await runJobs(services, jobs, ids, stopping.signal).catch((error: unknown) => broken(error, again));
    };
  for (const [name, work] of Object.entries(keyed))
    taskList[name] = async (payload, helpers) => {
      const again = () => queueKeyed(pool, name, helpers.job.key!, payload, 0);
      try {
        await work(services, payload, stopping.signal);
      } catch (error) {
        await broken(stopping.signal.aborted ? new Stopping() : error, again);
      }
    };
  const logger = new Logger(
    () => (level, message) =>
      (level as string) === 'error' && !stopping.signal.aborted ? log.error({}, message) : undefined,
  );
  // a pool of its own, whose end can be waited for: the runner does not wait for that of one it makes itself
  const pgPool = openPool(connectionString);
  const begin = () =>
    run({
      ...{ pgPool, concurrency, taskList, events, logger, noHandleSignals: true, pollInterval: 1000 },
      // in batches, which are of one here: else an end that cannot be stored is an error that nobody catches
      preset: { worker: { completeJobBatchDelay: 0, failJobBatchDelay: 0 } },
    });
  let runner: Runner = await begin();
  whenItFindsNothing(events, () => void runner.stop().catch(() => undefined));
  /** An outage of the database ends the runner: another takes its place as soon as that can be reached again. */
  const keepRunning = async (): Promise<void> => {
    const isStopping = () => stopping.signal.aborted;
    while (!isStopping()) {
      await runner.promise.catch((error: unknown) => log.error({ error }, 'the queue broke off'));
      if (isStopping()) return;
      await pRetry(
        async () => {
          // what it could not give back it holds no longer
          await retire(pool, [...alive]);
          alive.clear();
          runner = await begin();
        },
        { ...PATIENCE, signal: stopping.signal },
      ).catch(() => undefined);
    }
  };
  const ended = keepRunning();
  // said before anything else is begun; should the database go away just now, it is said again soon
  await tick().catch(told);
  const timer = setInterval(() => void tick().catch(told), BEAT_SECONDS * 1000);
  return {
    stop: async () => {
      clearInterval(timer);
      stopping.abort(new Stopping());
      await runner.stop().catch(() => undefined);
      await ended;
      await retire(pool, [...alive]).catch((error: unknown) => log.error({ error }, 'retiring'));
      await Promise.all([pgPool.end(), signs.end()]);
    },
  };
}

/** Looks for work that failed one after the other, after which a runner is taken for stuck. */
const MOST_FAILED_LOOKS = 10;
/**
 * A runner whose first connections fail, as when the machine sleeps while it starts, remembers the failure and finds no
 * work ever after, though it lives: it is ended, so that another takes its place. While it works on something it is let
 * alone.
 */
function whenItFindsNothing(events: WorkerEvents, end: () => void): void {
  let failed = 0;
  let working = 0;
  const found = () => void (failed = 0);
  events.on('worker:getJob:empty', found);
  events.on('job:start', () => {
    found();
    working++;
  });
  events.on('job:complete', () => void working--);
  events.on('worker:getJob:error', () => {
    if (++failed < MOST_FAILED_LOOKS || working > 0) return;
    found();
    // not while it tells of the failure: it has not yet said when it looks again
    setTimeout(end);
  });
}

/** Runs jobs that were queued together; throws where one of them has to be taken up again. */
async function runJobs(
  services: JobServices,
  works: Record<Job['kind'], JobsWork>,
  ids: readonly string[],
  stopping: AbortSignal,
): Promise<void> {
  const begun: BegunJob[] = [];
  const beginAll = async () => {
    for (const id of ids) {
      const job = await begin(services, id, stopping);
      if (job) begun.push(job);
    }
  };
  try {
    await beginAll();
  } catch (error) {
    // one that could not begin has those that have taken up again with it
    for (const job of begun) job.leave();
    throw error;
  }
  if (begun.length === 0) return;
  const ends = works[begun[0]!.kind](
    services,
    begun.map((job) => job.run),
  );
  const ended = await Promise.allSettled(begun.map((job, i) => job.ended(ends[i]!)));
  const again = ended.find((end) => end.status === 'rejected');
  if (again) throw again.reason;
}

interface BegunJob {
  kind: Job['kind'];
  run: JobRun;
  /** Waits for the end of its work and stores it; throws where it has to be taken up again. */
  ended: (work: Promise<void>) => Promise<void>;
  /** Stops watching over it, and leaves it as it stands. */
  leave: () => void;
}
/** Marks a job as under way; undefined where it was cancelled or is finished. */
async function begin(services: JobServices, id: string, stopping: AbortSignal): Promise<BegunJob | undefined> {
  const { pool, log } = services;
  if (underWay.has(id)) return undefined;
  const hold = await startJob(pool, id);
  if (!hold) {
    // cancelled while nobody ran it
    if (await cancelUnstarted(pool, id)) await notifyJob(pool, id);
    return undefined;
  }
  const found = await findJob(pool, id);
  if (!found) return undefined;
  const { job, payload } = found;
  const controller = new AbortController();
  const onStop = () => controller.abort(new Stopping());
  stopping.addEventListener('abort', onStop);
  if (stopping.aborted) onStop();
  let done = 0;
  let shown = -1;
  let isLeft = false;
  const sync = async () => {
    const said = await reportProgress(pool, id, hold, done);
    // it may have ended while this was asked
    if (isLeft) return;
    if (said === 'cancelled') controller.abort(new Cancelled());
    if (said === 'lost') controller.abort(new Lost());
    if (done !== shown) await notifyJob(pool, id);
    shown = done;
  };
  const timer = setInterval(() => void sync().catch(() => undefined), 300);
  underWay.add(id);
  const leave = () => {
    isLeft = true;
    underWay.delete(id);
    clearInterval(timer);
    stopping.removeEventListener('abort', onStop);
  };
  const ended = async (work: Promise<void>) => {
    // it may fail before its turn to be waited for comes
    work.catch(() => undefined);
    try {
      await notifyJob(pool, id);
      await work;
      leave();
      await finishJob(pool, id, hold, 'done', null);
    } catch (error) {
      // before its end is told of: it may be asked for again from then on
      leave();
      const reason: unknown = controller.signal.aborted ? controller.signal.reason : error;
      if (reason instanceof Lost) return;
      // it was stopped, or the database went away under it: the job itself is sound, and the queue hands it on
      if (reason instanceof Stopping || isDatabaseAway(reason)) {
        const leaving = () => leaveJob(pool, id, hold);
        await (reason instanceof Stopping ? leaving() : pRetry(leaving, { ...PATIENCE, signal: stopping })).catch(
          () => undefined,
        );
        throw reason;
      }
      if (reason instanceof Cancelled) await finishJob(pool, id, hold, 'cancelled', null);
      else {
        log.error({ error, job: id, kind: job.kind }, 'job failed');
        const message = diskFaultOf(error)?.detail ?? (error instanceof Error ? error.message : String(error));
        await finishJob(pool, id, hold, 'failed', message);
      }
    } finally {
      await notifyJob(pool, id).catch(() => undefined);
    }
  };
  return { kind: job.kind, run: { payload, signal: controller.signal, report: (n) => (done = n) }, ended, leave };
}
