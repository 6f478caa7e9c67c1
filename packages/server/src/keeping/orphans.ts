// What lies in the media folder and the database knows nothing of: a process was killed between the one and the other.
import { readdir, rm } from 'node:fs/promises';
import { join } from 'node:path';
import type pg from 'pg';
import { lockFootage } from '../db/media.ts';
import { inTransaction, type Queryable } from '../db/pool.ts';
import type { MediaStore } from '../media/store.ts';

const UUID = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}/;

/** Folders whose entries begin with an id, and the table whose id that is. */
const BY_ID = { frames: 'media', deliveries: 'delivery', carrying: 'carry_run' } as const;

/** Which of the ids have no row. */
async function unknown(db: Queryable, table: string, ids: readonly string[]): Promise<Set<string>> {
  const { rows } = await db.query<{ id: string }>(
    `select id from unnest($1::uuid[]) as given (id) where not exists (select 1 from ${table} t where t.id = given.id)`,
    [ids],
  );
  return new Set(rows.map((row) => row.id));
}

/** Removes it; gives the paths. A row is there before its files are, but for footage: that is locked meanwhile. */
export async function clearOrphans(pool: pg.Pool, store: MediaStore): Promise<string[]> {
  const removed: string[] = [];
  const remove = async (path: string) => {
    await rm(path, { recursive: true, force: true });
    removed.push(path);
  };
  for (const [folder, table] of Object.entries(BY_ID)) {
    const names = (await readdir(join(store.root, folder)).catch(() => [])).filter((name) => UUID.test(name));
    const gone = await unknown(pool, table, [...new Set(names.map(idOf))]);
    for (const name of names) if (gone.has(idOf(name))) await remove(join(store.root, folder, name));
  }
  const stored = (await readdir(join(store.root, 'store')).catch(() => [])).filter((name) =>
    /^[0-9a-f]{64}$/.test(name),
  );
  const { rows } = await pool.query<{ sha256: string }>('select distinct sha256 from media');
  const known = new Set(rows.map((row) => row.sha256));
  for (const sha256 of stored.filter((name) => !known.has(name)))
    await inTransaction(pool, async (db) => {
      await lockFootage(db, sha256);
      const { rowCount } = await db.query('select 1 from media where sha256 = $1', [sha256]);
      if (rowCount === 0) await remove(join(store.root, 'store', sha256));
    });
  return removed;
}
const idOf = (name: string): string => UUID.exec(name)![0];
