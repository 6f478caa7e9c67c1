import { access, constants, statfs } from 'node:fs/promises';
import type { Readiness } from '@mellow/contract';
import { SILENCE_SECONDS } from '../db/workers.ts';
import { Refused } from '../errors.ts';
import type { AppServices } from '../services.ts';
import type { Register } from './route.ts';

/** With less room than this nothing that makes files should be begun. */
const LEAST_FREE_BYTES = 1e9;
/** Work that waits so long while nobody has anything to do is not taken up at all. A long queue may wait for hours. */
const TAKEN_UP_SECONDS = 300;

/** Whether the server is alive, and whether all that it needs stands ready: for what watches over it. */
export function healthRoutes(register: Register, { pool, store }: AppServices, version: string): void {
  const ok = { ok: true as const, version };
  register('health', async () => {
    await pool.query('select 1');
    return ok;
  });
  register('live', async () => ok);
  register('ready', async (): Promise<Readiness> => {
    const work = await workOf(pool);
    if (work.workers === 0)
      throw new Refused('unavailable', `No worker has been heard of for ${SILENCE_SECONDS} s: nothing is computed.`);
    if (work.running === 0 && (work.oldestQueuedSeconds ?? 0) > TAKEN_UP_SECONDS)
      throw new Refused(
        'unavailable',
        `Work has waited for ${Math.round(work.oldestQueuedSeconds!)} s, and no worker takes it up.`,
      );
    await access(store.root, constants.R_OK | constants.W_OK).catch(() => {
      throw new Refused('unavailable', 'The media folder cannot be written to.');
    });
    const { bavail, bsize } = await statfs(store.root);
    const freeBytes = bavail * bsize;
    if (freeBytes < LEAST_FREE_BYTES)
      throw new Refused('storage-full', `The disk of the media folder has ${Math.floor(freeBytes / 1e6)} MB left.`);
    return { ...work, freeBytes };
  });
}

/** What runs and what waits, of all machines. */
export async function workOf(pool: AppServices['pool']): Promise<Omit<Readiness, 'freeBytes'>> {
  const { rows } = await pool.query<Record<keyof Omit<Readiness, 'freeBytes'>, number | null>>(
    `select
      (select count(*)::int from worker_heartbeat
        where takes_jobs and at > now() - make_interval(secs => $1)) as workers,
      count(*) filter (where state = 'running')::int as running,
      count(*) filter (where state = 'queued')::int as queued,
      extract(epoch from now() - min(created_at) filter (where state = 'queued'))::float as "oldestQueuedSeconds"
      from job where state in ('running', 'queued')`,
    [SILENCE_SECONDS],
  );
  const { workers, running, queued, oldestQueuedSeconds } = rows[0]!;
  return { workers: workers!, running: running!, queued: queued!, oldestQueuedSeconds };
}
