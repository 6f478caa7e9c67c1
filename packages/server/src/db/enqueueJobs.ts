import type { Queryable } from './pool.ts';

/** Work whose workers have died so often is given up. */
export const MOST_TRIES = 100;

/**
 * Queues the work of stored jobs, at least one, which are worked on together. What is queued again, since a stop, an
 * outage or a death broke it off, keeps its place: before what was asked for later.
 */
export async function enqueueJobs(db: Queryable, ids: readonly string[]): Promise<void> {
  await db.query(
    `select graphile_worker.add_job('job', json_build_object('ids', $1::text[]), job_key => $2::text,
      max_attempts => $3, run_at => (select min(created_at) from job where id = any($1::uuid[])))`,
    [ids, ids[0], MOST_TRIES],
  );
}
