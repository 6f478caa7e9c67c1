import { Job, ProxyState, type JobId, type JobState, type MediaId } from '@mellow/contract';
import type { Listing } from './listing.ts';
import type { Queryable } from './pool.ts';
import { SILENCE_SECONDS } from './workers.ts';

interface JobRow {
  id: string;
  project_id: string | null;
  kind: string;
  subject: string;
  title: string;
  state: string;
  done: number;
  total: number;
  message: string | null;
  created_at: Date;
  started_at: Date | null;
  finished_at: Date | null;
  revision: number;
}
const COLUMNS =
  'id, project_id, kind, subject, title, state, done, total, message, created_at, started_at, finished_at, revision';
export const toJob = (row: JobRow): Job =>
  Job.parse({
    id: row.id,
    projectId: row.project_id,
    kind: row.kind,
    subject: row.subject,
    title: row.title,
    state: row.state,
    done: row.done,
    total: row.total,
    message: row.message,
    createdAt: row.created_at.toISOString(),
    startedAt: row.started_at?.toISOString() ?? null,
    finishedAt: row.finished_at?.toISOString() ?? null,
    revision: row.revision,
  });

export interface NewJob {
  id: JobId;
  projectId: string | null;
  kind: Job['kind'];
  /** What the job is about (a media id, a sighting and colourway, a delivery): to find it again. */
  subject: string;
  title: string;
  total: number;
  payload: unknown;
}
export async function insertJob(db: Queryable, job: NewJob): Promise<void> {
  await db.query(
    `insert into job (id, project_id, kind, subject, title, state, total, payload)
      values ($1, $2, $3, $4, $5, 'queued', $6, $7)`,
    [job.id, job.projectId, job.kind, job.subject, job.title, job.total, JSON.stringify(job.payload)],
  );
}
export async function findJob(
  db: Queryable,
  id: string,
): Promise<{ job: Job; payload: unknown; cancelRequested: boolean } | undefined> {
  const { rows } = await db.query<JobRow & { payload: unknown; cancel_requested: boolean }>(
    `select ${COLUMNS}, payload, cancel_requested from job where id = $1`,
    [id],
  );
  return rows[0] && { job: toJob(rows[0]), payload: rows[0].payload, cancelRequested: rows[0].cancel_requested };
}
export async function latestJobOf(db: Queryable, kind: Job['kind'], subject: string): Promise<Job | undefined> {
  const { rows } = await db.query<JobRow>(
    `select ${COLUMNS} from job where kind = $1 and subject = $2 order by created_at desc limit 1`,
    [kind, subject],
  );
  return rows[0] && toJob(rows[0]);
}
/**
 * Jobs to show: all unfinished ones and the last twenty finished. Media jobs belong to every project that uses the
 * media.
 */
export async function listJobs(db: Queryable, projectId: string): Promise<Job[]> {
  const { rows } = await db.query<JobRow>(
    `select ${COLUMNS} from job
      where (project_id = $1 or (kind = 'proxy' and subject in (select media_id::text from shot where project_id = $1)))
        and (state in ('queued', 'running') or id in (select id from job
          where project_id = $1 and state not in ('queued', 'running')
          order by finished_at desc nulls last limit 20))
      order by created_at desc`,
    [projectId],
  );
  return rows.map(toJob);
}
/** How far the proxies are of each footage that a project ($1) stands on. */
export const PROXIES: Listing<[MediaId, ProxyState]> = {
  text: `select distinct on (subject) subject, state, id as "jobId", done, total, message from job
    where kind = 'proxy' and subject in (select id::text from media where sha256 in (
      select sha256 from media where id in (select media_id from shot
        where project_id = $1 union select media_id from plate where project_id = $1)))
    order by subject, created_at desc`,
  toValue: ({ subject, ...state }) => [subject as MediaId, ProxyState.parse(state)],
};
/**
 * What a worker holds a job by: when it took it. One that was cut off, and whose job somebody else has taken meanwhile,
 * is known by it, and changes nothing more.
 */
export type Hold = string & { readonly brand: 'Hold' };
/**
 * Marks a job as taken by a worker, or taken up again after one was killed; undefined when it was cancelled or finished
 * before.
 */
export async function startJob(db: Queryable, id: string): Promise<Hold | undefined> {
  const { rows } = await db.query<{ hold: Hold }>(
    `update job set state = 'running', started_at = clock_timestamp(), done = 0, message = null
      where id = $1 and state in ('queued', 'running') and not cancel_requested returning started_at::text as hold`,
    [id],
  );
  return rows[0]?.hold;
}
const IS_HELD = `id = $1 and started_at = $2::text::timestamptz and state = 'running'`;
/** Stores progress; answers whether somebody asked to cancel, or that the job is somebody else's now, or gone. */
export async function reportProgress(
  db: Queryable,
  id: string,
  hold: Hold,
  done: number,
): Promise<'goes on' | 'cancelled' | 'lost'> {
  const { rows } = await db.query<{ cancel_requested: boolean }>(
    `update job set done = $3 where ${IS_HELD} returning cancel_requested`,
    [id, hold, done],
  );
  if (!rows[0]) return 'lost';
  return rows[0].cancel_requested ? 'cancelled' : 'goes on';
}
/** Ends a job that is held; of another's, nothing is changed. */
export async function finishJob(
  db: Queryable,
  id: string,
  hold: Hold,
  state: JobState,
  message: string | null,
): Promise<void> {
  await db.query(
    `update job set state = $3, message = $4, finished_at = now(),
      done = case when $3 = 'done' then total else done end where ${IS_HELD}`,
    [id, hold, state, message],
  );
}
/** A job that is held and was broken off waits for the next worker. */
export async function leaveJob(db: Queryable, id: string, hold: Hold): Promise<void> {
  await db.query(`update job set state = 'queued' where ${IS_HELD}`, [id, hold]);
}
/**
 * Asks for a job to be ended. One that waits, or whose worker has died, is ended at once; a living worker ends it at
 * its next sign of progress.
 */
export async function requestCancel(db: Queryable, id: string): Promise<void> {
  await db.query(
    `update job set cancel_requested = true,
       state = case when held then state else 'cancelled' end,
       finished_at = case when held then finished_at else now() end
     from (select exists (
       select 1 from graphile_worker._private_jobs g join worker_heartbeat w on w.id = g.locked_by
        where (g.key = $1::text or jsonb_exists(g.payload::jsonb -> 'ids', $1::text))
          and w.at > now() - make_interval(secs => $2)) as held) as worker
     where id = $1::uuid and state in ('queued', 'running')`,
    [id, SILENCE_SECONDS],
  );
}
/** Ends a job that was cancelled while nobody ran it; false when there was nothing to end. */
export async function cancelUnstarted(db: Queryable, id: string): Promise<boolean> {
  const { rowCount } = await db.query(
    `update job set state = 'cancelled', finished_at = now()
     where id = $1 and state in ('queued', 'running') and cancel_requested`,
    [id],
  );
  return rowCount === 1;
}
export async function resetJob(db: Queryable, id: string): Promise<void> {
  await db.query(
    `update job set state = 'queued', cancel_requested = false, done = 0, message = null, started_at = null,
      finished_at = null where id = $1`,
    [id],
  );
}
