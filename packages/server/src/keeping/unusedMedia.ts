// Footage that no project has, nor has had: its project was deleted, or it was never made a shot of.
import { rm } from 'node:fs/promises';
import { dirname } from 'node:path';
import type pg from 'pg';
import type { MediaId } from '@mellow/contract';
import { lockFootage } from '../db/media.ts';
import { inTransaction } from '../db/pool.ts';
import { isOfAProject } from '../db/space.ts';
import { framesFolder, mediaFolder, type MediaStore } from '../media/store.ts';

/** An import that is under way has its footage before it has its shots. */
const UNWANTED_HOURS = 24;

/** Clears it away, rows and files; gives the hashes. */
export async function clearUnusedMedia(pool: pg.Pool, store: MediaStore): Promise<string[]> {
  const { rows } = await pool.query<{ sha256: string }>(
    `select sha256 from media m where not ${isOfAProject('m')}
      group by sha256 having max(wanted_at) < now() - make_interval(hours => $1)`,
    [UNWANTED_HOURS],
  );
  const cleared: string[] = [];
  for (const { sha256 } of rows) if (await clear(pool, store, sha256)) cleared.push(sha256);
  return cleared;
}

/** All readings of the same files go together; false where somebody has come to want them meanwhile. */
const clear = (pool: pg.Pool, store: MediaStore, sha256: string): Promise<boolean> =>
  inTransaction(pool, async (db) => {
    await lockFootage(db, sha256);
    const { rows } = await db.query<{ id: MediaId }>(
      `delete from media m where sha256 = $1 and not ${isOfAProject('m')}
        and wanted_at < now() - make_interval(hours => $2) returning id`,
      [sha256, UNWANTED_HOURS],
    );
    const { rowCount: left } = await db.query('select 1 from media where sha256 = $1', [sha256]);
    for (const { id } of rows) await rm(dirname(framesFolder(store, id, 'proxy')), { recursive: true, force: true });
    if (left === 0) await rm(mediaFolder(store, sha256), { recursive: true, force: true });
    return rows.length > 0;
  });
