// What is deleted for good, by somebody or because its time has come.
import { rm } from 'node:fs/promises';
import type pg from 'pg';
import type { DeliveryId } from '@mellow/contract';
import { inTransaction } from '../db/pool.ts';
import { dropKeptCarrier } from '../carry/keptCarrier.ts';
import { NotFound, Refused } from '../errors.ts';
import { deliveryFolder, type MediaStore } from '../media/store.ts';
import { clearUnusedMedia } from './unusedMedia.ts';
import type { KeepingRules } from './rules.ts';

async function dropRenders(store: MediaStore, ids: readonly string[]): Promise<void> {
  for (const id of ids) await rm(deliveryFolder(store, id), { recursive: true, force: true });
}

/**
 * Deletes a removed project: its document and log, its renders and reviews, and the footage that no other project has
 * or has had. Work that runs for it ends as if it were cancelled. Throws NotFound, and Refused where it is not removed.
 */
export async function deleteProject(pool: pg.Pool, store: MediaStore, projectId: string): Promise<void> {
  const { renders, runs } = await inTransaction(pool, async (db) => {
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
    const theirs = { renders: await ids('delivery'), runs: await ids('carry_run') };
    // its media are let go, so that the oldest of them can go at once
    await db.query(
      `update media set wanted_at = '-infinity' where wanted_at < now() - interval '1 hour'
        and id in (select media_id from project_media where project_id = $1)`,
      [projectId],
    );
    await db.query('delete from project where id = $1', [projectId]);
    return theirs;
  });
  // whatever of this is broken off, the next round of keeping finds
  await dropRenders(store, renders);
  for (const run of runs) await dropKeptCarrier(store, run);
  await clearUnusedMedia(pool, store);
}

/** Of a render that is under way, or that a review shows, nothing is deleted. */
const DELETABLE = `j.state not in ('queued', 'running')
  and not exists (select 1 from review_film f where f.delivery_id = d.id)`;

/** Deletes a render and its files. Throws NotFound, and Refused while it is under way or a review shows it. */
export async function deleteDelivery(pool: pg.Pool, store: MediaStore, id: DeliveryId): Promise<void> {
  const { rowCount } = await pool.query(
    `delete from delivery where id in (select d.id from delivery d join job j on j.id = d.job_id
      where d.id = $1 and ${DELETABLE})`,
    [id],
  );
  if (rowCount === 0) {
    const { rowCount: there } = await pool.query('select 1 from delivery where id = $1', [id]);
    if (there === 0) throw new NotFound('delivery', id);
    throw new Refused(
      'conflict',
      'It is still being rendered, or a review shows it: cancel it, or withdraw the review.',
    );
  }
  await dropRenders(store, [id]);
}

/** Deletes what has been removed, or rendered, for as long as the rules keep it; gives what. */
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
    const { rows } = await pool.query<{ id: string; file_name: string }>(
      `delete from delivery where id in (select d.id from delivery d join job j on j.id = d.job_id
        where j.finished_at < now() - make_interval(secs => $1) and ${DELETABLE}) returning id, file_name`,
      [rules.rendersDays * SECONDS_A_DAY],
    );
    await dropRenders(
      store,
      rows.map((row) => row.id),
    );
    deleted.push(...rows.map((row) => `render ${row.file_name}`));
  }
  return deleted;
}
const SECONDS_A_DAY = 86_400;
