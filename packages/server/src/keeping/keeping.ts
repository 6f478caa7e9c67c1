// The house is kept: at every start, and hourly. What processes of the same machine have left is theirs to clear; what
// goes by the database is done by one process at a time, whichever comes first.
import type pg from 'pg';
import { clearLeftovers } from '../media/leftovers.ts';
import type { MediaStore } from '../media/store.ts';
import { clearForgottenUploads } from '../media/uploads.ts';
import { deleteExpired } from './deletion.ts';
import { clearLoose } from './looseFiles.ts';
import type { KeepingRules } from './rules.ts';
import { noteSizes } from './sizes.ts';
import { dropUnusedMedia } from './unusedMedia.ts';

/** Any number that no other lock of the database has. */
const KEEPING = 7_203_114;

interface Kept {
  left: string[];
  forgotten: string[];
  deleted: string[];
  loose: string[];
  unused: string[];
}
export async function keepHouse(pool: pg.Pool, store: MediaStore, rules: KeepingRules): Promise<Kept> {
  const left = await clearLeftovers(store.root);
  const forgotten = await clearForgottenUploads(store.root);
  const nothing: Kept = { left, forgotten, deleted: [], loose: [], unused: [] };
  const client = await pool.connect();
  try {
    const { rows } = await client.query<{ ours: boolean }>('select pg_try_advisory_lock($1) as ours', [KEEPING]);
    if (!rows[0]!.ours) return nothing;
    try {
      const deleted = await deleteExpired(pool, store, rules);
      const unused = await dropUnusedMedia(pool, store);
      const loose = await clearLoose(pool, store);
      await noteSizes(pool, store);
      return { ...nothing, deleted, loose, unused };
    } finally {
      await client.query('select pg_advisory_unlock($1)', [KEEPING]);
    }
  } finally {
    client.release();
  }
}
