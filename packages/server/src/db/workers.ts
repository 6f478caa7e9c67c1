import type pg from 'pg';
import { enqueueJobs, MOST_TRIES } from './enqueueJobs.ts';
import { inTransaction, openPool } from './pool.ts';

/** A worker silent for so long is taken for dead, and its locks are given back. */
export const SILENCE_SECONDS = 10;

/** Signs of life of workers of a process, said by one connection that stands as long as the process lives. */
export interface SignsOfLife {
  beat: (workerIds: readonly string[]) => Promise<void>;
  /** Ends the connection: what was said by it counts no longer. */
  end: () => Promise<void>;
}
/**
 * Whoever kills a process ends its sessions: a sign of life therefore names the session that it came by. Should that
 * one break while the process lives, `onBroken` is called, and the next sign comes by another. `takesJobs`: do they?
 */
export function openSignsOfLife(connectionString: string, onBroken: () => void, takesJobs = true): SignsOfLife {
  const pool = openPool(connectionString, { max: 1, idleTimeoutMillis: 0 });
  pool.on('error', onBroken);
  return {
    beat: async (workerIds) => {
      await pool.query(
        `insert into worker_heartbeat (id, at, backend, backend_start, takes_jobs)
         select id, now(), pid, backend_start, $2 from unnest($1::text[]) as id, pg_stat_activity
          where pid = pg_backend_pid()
         on conflict (id) do update
           set at = now(), backend = excluded.backend, backend_start = excluded.backend_start`,
        [workerIds, takesJobs],
      );
    },
    end: () => pool.end(),
  };
}

/** These workers have stopped: their signs of life and whatever they still hold go together. */
export const retire = (pool: pg.Pool, workerIds: readonly string[]): Promise<void> =>
  inTransaction(pool, async (db) => {
    await db.query('delete from worker_heartbeat where id = any($1::text[])', [workerIds]);
    await db.query('select graphile_worker.force_unlock_workers($1::text[])', [workerIds]);
  });

/** A time that is to be of just now is not: longer ago than the silence, or from before the clock was set back. */
const isOld = (at: string): string =>
  `${at} not between now() - make_interval(secs => $1) and now() + make_interval(secs => $1)`;

/** Work waits for a few seconds at most before its first try; for longer only where the clock was set back. */
const CLOCK_SET_BACK = `update graphile_worker._private_jobs set run_at = now()
  where attempts = 0 and run_at > now() + interval '1 minute'`;

/**
 * Workers whose session is gone, though the database has stood since: their process has died. Where the database itself
 * was ended all sessions went with it, and say nothing of their processes. Another's `backend_start` may be hidden.
 */
const SESSION_IS_GONE = `backend_start >= pg_postmaster_start_time() and not exists (
  select 1 from pg_stat_activity as session where session.pid = backend
    and coalesce(session.backend_start, worker_heartbeat.backend_start) = worker_heartbeat.backend_start)`;

/**
 * What a death has broken off keeps its place in the queue so many times; from then on it goes behind what waits: what
 * takes longer than its workers live, or kills them, must not stop all else.
 */
export const TIMES_IN_PLACE = 3;
const GO_BEHIND = `update graphile_worker._private_jobs set run_at = now()
  where locked_by = any($1::text[]) and attempts >= $2`;

const IS_WORK_OF_JOB = `(work.key = job.id::text or work.payload::jsonb ->> 'id' = job.id::text
  or jsonb_exists(work.payload::jsonb -> 'ids', job.id::text))`;
/** Nobody takes up work that has no try left. */
const IS_SPENT = 'work.locked_by is null and work.attempts >= work.max_attempts';
/** Jobs whose work is spent and not replaced have failed, but for those of $1; those that were to be cancelled are. */
const GIVE_UP = `update job set
    state = case when cancel_requested then 'cancelled' else 'failed' end,
    message = case when not cancel_requested then $2 end,
    finished_at = now()
  where state in ('queued', 'running') and not id = any($1::uuid[])
    and exists (select 1 from graphile_worker._private_jobs as work
      where ${IS_SPENT} and work.key is not null and ${IS_WORK_OF_JOB})
    and not exists (select 1 from graphile_worker._private_jobs as work where not (${IS_SPENT}) and ${IS_WORK_OF_JOB})
  returning id`;
const GIVEN_UP = `It was begun ${MOST_TRIES} times, and each time its worker ended before it was done.`;
/** Work that was queued anew while a worker held it has lost its key; it, and that of jobs given up, is nobody's. */
const DROP_SPENT = `delete from graphile_worker._private_jobs as work where ${IS_SPENT}
  and (work.key is null
    or exists (select 1 from job where state not in ('queued', 'running') and ${IS_WORK_OF_JOB}))`;

/**
 * Jobs called running whose work nobody holds wait again, but for those of $1; those that were to be cancelled are.
 * Their worker has died, or could not say any more, the database being away, that it let go of them.
 */
const WAIT_AGAIN = `update job set
    state = case when cancel_requested then 'cancelled' else 'queued' end,
    finished_at = case when cancel_requested then now() end
  where state = 'running' and not id = any($1::uuid[]) and not exists (
    select 1 from graphile_worker._private_jobs as work where work.locked_by is not null and ${IS_WORK_OF_JOB})
  returning id`;
/** Jobs that wait, and that no work in the queue is about any more. */
const FORGOTTEN = `select id from job where state = 'queued' and not exists (
  select 1 from graphile_worker._private_jobs as work where ${IS_WORK_OF_JOB})`;

export interface Released {
  /** Workers that are dead. */
  workers: string[];
  /** Jobs that nobody worked on any more: they wait again, are cancelled, or given up after too many deaths. */
  jobs: string[];
}
/**
 * Gives back whatever is locked by workers whose session is gone or that have given no fresh sign of life, jobs and
 * queues alike, so that others take it up; what nobody works on any more waits, and is queued anew where that is
 * wanting. A lock without any sign of life and younger than the silence is left: its worker may not have been able to
 * say anything yet. `underWay`: jobs that this process works on, though an outage may have taken their locks from it.
 */
export const releaseDeadWorkers = (pool: pg.Pool, underWay: readonly string[] = []): Promise<Released> =>
  inTransaction(pool, async (db) => {
    const { rows: gone } = await db.query<{ id: string }>(
      `delete from worker_heartbeat where ${SESSION_IS_GONE} returning id`,
    );
    await db.query(`delete from worker_heartbeat where ${isOld('at')}`, [SILENCE_SECONDS]);
    await db.query(CLOCK_SET_BACK);
    const { rows } = await db.query<{ id: string }>(
      `select distinct locked_by as id from (
         select locked_by, locked_at from graphile_worker._private_jobs where locked_by is not null
         union all
         select locked_by, locked_at from graphile_worker._private_job_queues where locked_by is not null) as locks
       where locked_by = any($2::text[])
          or ${isOld('locked_at')} and locked_by not in (select id from worker_heartbeat)`,
      [SILENCE_SECONDS, gone.map((row) => row.id)],
    );
    const workers = rows.map((row) => row.id);
    if (workers.length > 0) {
      await db.query(GO_BEHIND, [workers, TIMES_IN_PLACE]);
      await db.query('select graphile_worker.force_unlock_workers($1::text[])', [workers]);
    }
    const givenUp = await db.query<{ id: string }>(GIVE_UP, [underWay, GIVEN_UP]);
    await db.query(DROP_SPENT);
    const waiting = await db.query<{ id: string }>(WAIT_AGAIN, [underWay]);
    const forgotten = await db.query<{ id: string }>(FORGOTTEN);
    for (const { id } of forgotten.rows) await enqueueJobs(db, [id]);
    return { workers, jobs: [...givenUp.rows, ...waiting.rows].map((row) => row.id) };
  });
