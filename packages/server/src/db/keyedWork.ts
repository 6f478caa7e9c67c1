// Work without a row of its own in the job table, keyed so that a newer request replaces a waiting one.
import type { Queryable } from './pool.ts';

/** `key`: what it is of. */
export interface KeyedRequest {
  key: string;
  payload: unknown;
}
/**
 * Queues keyed work a little later, replacing waiting requests with the same keys. Work of one kind takes its turn, so
 * that it never holds all the workers there are.
 */
export async function queueAllKeyed(
  db: Queryable,
  task: string,
  requests: readonly KeyedRequest[],
  delaySeconds: number,
): Promise<void> {
  await db.query(
    `select count(*) from graphile_worker.add_jobs(array(
       select row($1, r.payload, $1, now() + make_interval(secs => $4), 100, r.key, null, null)
           ::graphile_worker.job_spec
         from unnest($2::text[], $3::json[]) as r (key, payload)))`,
    [task, requests.map((r) => r.key), requests.map((r) => JSON.stringify(r.payload)), delaySeconds],
  );
}
export const queueKeyed = (
  db: Queryable,
  task: string,
  key: string,
  payload: unknown,
  delaySeconds: number,
): Promise<void> => queueAllKeyed(db, task, [{ key, payload }], delaySeconds);

/** Has what was measured of a project looked through, in the caller's transaction: an edit that stands is followed. */
export const queueLookThrough = (db: Queryable, projectId: string): Promise<void> =>
  queueKeyed(db, LOOK_THROUGH, `${LOOK_THROUGH}:${projectId}`, { projectId }, 0);
export const LOOK_THROUGH = 'lookThrough';
