// Footage that no project has, nor has had: its project was deleted, or it was never made a shot of.
import { dirname, relative } from 'node:path';
import type pg from 'pg';
import type { MediaId } from '@mellow/contract';
import { noteLoose } from '../db/looseFiles.ts';
import { hasMedia, lockFootage } from '../db/media.ts';
import { inTransaction } from '../db/pool.ts';
import { isOfAProject } from '../db/space.ts';
import { framesFolder, mediaFolder, type MediaStore } from '../media/store.ts';

/** An import that is under way has its footage before it has its shots. */
const UNWANTED_HOURS = 24;

/** Deletes its rows, and notes its files as loose; gives the hashes. */
export async function dropUnusedMedia(pool: pg.Pool, store: MediaStore): Promise<string[]> {
  const { rows } = await pool.query<{ sha256: string }>(
    `select sha256 from media m where not ${isOfAProject('m')}
      group by sha256 having max(wanted_at) < now() - make_interval(hours => $1)`,
    [UNWANTED_HOURS],
  );
  const dropped: string[] = [];
  for (const { sha256 } of rows) if (await drop(pool, store, sha256)) dropped.push(sha256);
  return dropped;
}

/** All readings of the same files go together; false where somebody has come to want them meanwhile. */
const drop = (pool: pg.Pool, store: MediaStore, sha256: string): Promise<boolean> =>
  inTransaction(pool, async (db) => {
    await lockFootage(db, sha256);
    const { rows } = await db.query<{ id: MediaId }>(
      `delete from media m where sha256 = $1 and not ${isOfAProject('m')}
        and wanted_at < now() - make_interval(hours => $2) returning id`,
      [sha256, UNWANTED_HOURS],
    );
    const folders = rows.map(({ id }) => dirname(framesFolder(store, id, 'proxy')));
    if (!(await hasMedia(db, sha256))) folders.push(mediaFolder(store, sha256));
    await noteLoose(
      db,
      folders.map((folder) => relative(store.root, folder)),
    );
    return rows.length > 0;
  });
