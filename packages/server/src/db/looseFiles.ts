// Files of the media folder that may lie there without a row that knows of them: noted before they are put there, and
// with what deletes their row, and struck out once that is settled. Whatever is not noted is never cleared away: a
// database that is new, or was set back, knows nothing of files that are somebody's.
import type { Queryable } from './pool.ts';

/** `paths`: below the media folder. */
export async function noteLoose(db: Queryable, paths: readonly string[]): Promise<void> {
  await db.query('insert into loose_files (path) select unnest($1::text[]) on conflict do nothing', [paths]);
}
export async function listLoose(db: Queryable): Promise<string[]> {
  const { rows } = await db.query<{ path: string }>('select path from loose_files order by path');
  return rows.map((row) => row.path);
}
export async function settleLoose(db: Queryable, path: string): Promise<void> {
  await db.query('delete from loose_files where path = $1', [path]);
}
