import type { Queryable } from './pool.ts';

/** Says that these workers are alive. */
export async function beat(db: Queryable, workerIds: readonly string[]): Promise<void> {
  await db.query(
    'insert into worker_heartbeat (id, at) select unnest($1::text[]), now() on conflict (id) do update set at = now()',
    [workerIds],
  );
}
export async function forget(db: Queryable, workerIds: readonly string[]): Promise<void> {
  await db.query('delete from worker_heartbeat where id = any($1::text[])', [workerIds]);
}
/** Gives back the jobs of workers that have been silent for so long, so that others take them up. Returns those workers. */
export async function releaseSilentWorkers(db: Queryable, silenceSeconds: number): Promise<string[]> {
  const { rows } = await db.query<{ id: string }>(
    'delete from worker_heartbeat where at < now() - make_interval(secs => $1) returning id',
    [silenceSeconds],
  );
  const ids = rows.map((row) => row.id);
  if (ids.length > 0) await db.query('select graphile_worker.force_unlock_workers($1::text[])', [ids]);
  return ids;
}
