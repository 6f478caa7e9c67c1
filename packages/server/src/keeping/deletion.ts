// What is deleted for good, by somebody or because its time has come.
import { relative } from 'node:path';
import type pg from 'pg';
import type { DeliveryId } from '@mellow/contract';
import { inTransaction } from '../db/pool.ts';
import { keptCarrierPath } from '../carry/keptCarrier.ts';
import { findDelivery } from '../db/deliveries.ts';
import { noteLoose } from '../db/looseFiles.ts';
import { NotFound, Refused } from '../errors.ts';
import { deliveryFolder, type MediaStore } from '../media/store.ts';
import { clearLoose } from './looseFiles.ts';
import { dropUnusedMedia } from './unusedMedia.ts';
import type { KeepingRules } from './rules.ts';

const rendersOf = (store: MediaStore, ids: readonly string[]): string[] =>
  ids.map((id) => relative(store.root, deliveryFolder(store, id)));

/**
 * Deletes a removed project: its document and log, its renders and reviews, and the footage that no other project has
 * or has had. Work that runs for it ends as if it were cancelled. Throws NotFound, and Refused where it is not removed.
 */
export async function deleteProject(pool: pg.Pool, store: MediaStore, projectId: string): Promise<void> {
  await inTransaction(pool, async (db) => {
    const { rows } = await db.query<{ state: string; name: string }>(
      'select state, name from project where id = $1 for update',
      [projectId],
    );
    if (!rows[0]) throw new NotFound('project', projectId);
    if (rows[0].state !== 'removed')
      throw new Refused('conflict', `“${rows[0].name}” is not removed. What is deleted for good is removed first.`);
    const ids = async (table: string) =>
      (await db.query<{ id: string }>(`select id from ${table} where project_id = $1`, [projectId])).rows.map(
        (r) => r.id,
      );
    const passes = (await ids('carry_run')).map((run) => relative(store.root, keptCarrierPath(store, run)));
    await noteLoose(db, [...rendersOf(store, await ids('delivery')), ...passes]);
    // its media are let go, so that they go at once unless somebody brings them in just now
    await db.query(
      `update media set wanted_at = '-infinity' where wanted_at < now() - interval '1 hour'
        and id in (select media_id from project_media where project_id = $1)`,
      [projectId],
    );
    await db.query('delete from project where id = $1', [projectId]);
  });
  // whatever of this is broken off, the next round of keeping finds
  await dropUnusedMedia(pool, store);
  await clearLoose(pool, store);
}

/** Of a render that is under way, or that a review shows, nothing is deleted. */
const DELETABLE = `j.state not in ('queued', 'running')
  and not exists (select 1 from review_film f where f.delivery_id = d.id)`;

/** Deletes renders for which `which` holds, of those that may be; gives the names of their files. */
const dropRenders = (pool: pg.Pool, store: MediaStore, which: string, value: unknown): Promise<string[]> =>
  inTransaction(pool, async (db) => {
    const { rows } = await db.query<{ id: string; file_name: string }>(
      `delete from delivery where id in (select d.id from delivery d join job j on j.id = d.job_id
        where ${which} and ${DELETABLE}) returning id, file_name`,
      [value],
    );
    await noteLoose(
      db,
      rendersOf(
        store,
        rows.map((row) => row.id),
      ),
    );
    return rows.map((row) => row.file_name);
  });

/** Deletes a render and its files. Throws NotFound, and Refused while it is under way or a review shows it. */
export async function deleteDelivery(pool: pg.Pool, store: MediaStore, id: DeliveryId): Promise<void> {
  if ((await dropRenders(pool, store, 'd.id = $1', id)).length === 0) {
    if (!(await findDelivery(pool, id))) throw new NotFound('delivery', id);
    throw new Refused(
      'conflict',
      'It is still being rendered, or a review shows it: cancel it, or withdraw the review.',
    );
  }
  await clearLoose(pool, store);
}

/** Deletes what has been removed, or rendered, for longer than the rules keep it; gives what. Its files are loose. */
export async function deleteExpired(pool: pg.Pool, store: MediaStore, rules: KeepingRules): Promise<string[]> {
  const deleted: string[] = [];
  if (rules.removedDays !== undefined) {
    const { rows } = await pool.query<{ id: string; name: string }>(
      `select id, name from project where state = 'removed' and removed_at < now() - make_interval(secs => $1)`,
      [rules.removedDays * SECONDS_A_DAY],
    );
    for (const { id, name } of rows) {
      await deleteProject(pool, store, id);
      deleted.push(`project ${name}`);
    }
  }
  if (rules.rendersDays !== undefined) {
    const past = 'j.finished_at < now() - make_interval(secs => $1)';
    const names = await dropRenders(pool, store, past, rules.rendersDays * SECONDS_A_DAY);
    deleted.push(...names.map((name) => `render ${name}`));
  }
  return deleted;
}
const SECONDS_A_DAY = 86_400;
