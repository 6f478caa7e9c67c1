import type pg from 'pg';
import { inTransaction, type Queryable } from './pool.ts';

/** A worker silent for so long is taken for dead, and its locks are given back. */
export const SILENCE_SECONDS = 10;

/** Says that these workers are alive. */
export async function beat(db: Queryable, workerIds: readonly string[]): Promise<void> {
  await db.query(
    'insert into worker_heartbeat (id, at) select unnest($1::text[]), now() on conflict (id) do update set at = now()',
    [workerIds],
  );
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
 * Gives back whatever is locked by workers without a fresh sign of life, jobs and queues alike, so that others take it
 * up. A lock younger than the silence is left: its worker may not have been able to say anything yet. Returns those
 * workers.
 */
export const releaseSilentWorkers = (pool: pg.Pool): Promise<string[]> =>
  inTransaction(pool, async (db) => {
    await db.query(`delete from worker_heartbeat where ${isOld('at')}`, [SILENCE_SECONDS]);
    await db.query(CLOCK_SET_BACK);
    const { rows } = await db.query<{ id: string }>(
      `select distinct locked_by as id from (
         select locked_by, locked_at from graphile_worker._private_jobs where locked_by is not null
         union all
         select locked_by, locked_at from graphile_worker._private_job_queues where locked_by is not null) as locks
       where ${isOld('locked_at')} and locked_by not in (select id from worker_heartbeat)`,
      [SILENCE_SECONDS],
    );
    const ids = rows.map((row) => row.id);
    if (ids.length > 0) await db.query('select graphile_worker.force_unlock_workers($1::text[])', [ids]);
    return ids;
  });
