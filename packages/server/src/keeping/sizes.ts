// What footage takes on the disk, where nobody has looked yet: what came in before it was noted.
import { dirname } from 'node:path';
import type pg from 'pg';
import type { MediaId } from '@mellow/contract';
import { framesFolder, mediaFolder, type MediaStore } from '../media/store.ts';
import { treeBytes } from './treeBytes.ts';

export async function noteSizes(pool: pg.Pool, store: MediaStore): Promise<void> {
  const { rows } = await pool.query<{ id: MediaId; sha256: string }>(
    'select id, sha256 from media where bytes is null or frame_bytes is null',
  );
  for (const { id, sha256 } of rows) {
    const bytes = await treeBytes(mediaFolder(store, sha256));
    const frames = await frameBytes(store, id);
    // of what is not there nothing is noted: it may yet come
    const text = 'update media set bytes = nullif($2, 0), frame_bytes = nullif($3, 0) where id = $1';
    await pool.query(text, [id, bytes, frames]);
  }
}

/** Of the small pictures of a media. */
export const frameBytes = (store: MediaStore, id: MediaId): Promise<number> =>
  treeBytes(dirname(framesFolder(store, id, 'proxy')));
