// Database and media folder belong together; which folder is known by a file in it.
import { randomUUID } from 'node:crypto';
import { readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { Queryable } from '../db/pool.ts';
import type { MediaStore } from './store.ts';

/** Beside the footage, so that it is backed up and restored with it. */
export const identityPath = ({ root }: Pick<MediaStore, 'root'>): string => join(root, 'store', 'identity');

/** What the folder calls itself; undefined where it has no name yet. */
const nameOf = (path: string): Promise<string | undefined> =>
  readFile(path, 'utf8').then(
    (text) => text.trim(),
    (error: unknown) => {
      if ((error as NodeJS.ErrnoException).code === 'ENOENT') return undefined;
      throw error;
    },
  );

/**
 * Sees that the media folder is the one that the database was used with, or notes that it is from now on. Throws a
 * plain sentence where it is another, or an empty one: one that was not mounted, say.
 */
export async function assertOwnMedia(db: Queryable, store: Pick<MediaStore, 'root'>): Promise<void> {
  const path = identityPath(store);
  const { rows } = await db.query<{ id: string }>('select media_id as id from installation');
  const known = rows[0]?.id;
  const found = await nameOf(path);
  if (known !== undefined) {
    if (found === known) return;
    const what = found === undefined ? 'holds nothing of it' : 'belongs to another';
    throw new Error(
      `The media folder ${store.root} is not the one that this database was used with: it ${what}. ` +
        `Mount it, or name it by MELLOW_MEDIA. If it is lost for good, write ${known} into ${path}: ` +
        'its footage is then missing, and can be brought in again.',
    );
  }
  if (found === undefined)
    // of two first starts at once the second finds the first one's
    await writeFile(path, `${randomUUID()}\n`, { flag: 'wx' }).catch((error: unknown) => {
      if ((error as NodeJS.ErrnoException).code !== 'EEXIST') throw error;
    });
  await db.query('insert into installation (media_id) values ($1) on conflict do nothing', [await nameOf(path)]);
  return assertOwnMedia(db, store);
}
