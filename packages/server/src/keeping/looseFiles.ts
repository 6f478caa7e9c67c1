// Files that were noted as loose, since somebody deletes what knew of them or was killed before it was known.
import { rm } from 'node:fs/promises';
import { basename, dirname, join } from 'node:path';
import type pg from 'pg';
import { listLoose, settleLoose } from '../db/looseFiles.ts';
import { hasMedia, holdingFootage } from '../db/media.ts';
import type { MediaStore } from '../media/store.ts';

/** Removes them, but for footage that somebody has come to know again; gives the paths below the media folder. */
export async function clearLoose(pool: pg.Pool, store: Pick<MediaStore, 'root'>): Promise<string[]> {
  const removed: string[] = [];
  const remove = async (path: string) => {
    await rm(join(store.root, path), { recursive: true, force: true });
    removed.push(path);
  };
  for (const path of await listLoose(pool)) {
    if (dirname(path) !== 'store') {
      await remove(path);
      await settleLoose(pool, path);
      continue;
    }
    // whoever brings it in holds it until its row is there
    const sha256 = basename(path);
    await holdingFootage(pool, sha256, async (db) => {
      if (!(await hasMedia(db, sha256))) await remove(path);
      await settleLoose(db, path);
    });
  }
  return removed;
}
