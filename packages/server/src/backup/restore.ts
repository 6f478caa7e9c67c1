import { stat, statfs } from 'node:fs/promises';
import { join } from 'node:path';
import pg from 'pg';
import { migrationFiles } from '../db/migrate.ts';
import { hashFile } from '../media/hashes.ts';
import { openStore } from '../media/store.ts';
import { copied } from './copied.ts';
import { DATABASE_FILE, keptFiles, MEDIA_FOLDER, readWhole, type KeptFile, type WholeBackup } from './kept.ts';
import { runTool } from './postgresTools.ts';

export interface RestoreOf {
  databaseUrl: string;
  mediaRoot: string;
  from: string;
  /** Told after every file that was checked, then after every one that was put in place. */
  onProgress?: (what: 'checked' | 'in place', files: number, of: number) => void;
  signal?: AbortSignal;
}

/**
 * Puts a backup into an empty database and a media folder. Everything is checked before anything is touched; the
 * database comes last and in one transaction, so that a restore which was broken off is begun again. Throws a plain
 * sentence.
 */
export async function restore({ databaseUrl, mediaRoot, from, onProgress, signal }: RestoreOf): Promise<WholeBackup> {
  const whole = await readWhole(from, signal);
  const newest = Number(migrationFiles().at(-1)!.slice(0, 6));
  if (whole.migration > newest)
    throw new Error(`The backup is of a newer Mellow Hue (${whole.program}, ${whole.migration}) than this one.`);
  await assertEmpty(databaseUrl);
  let checked = 0;
  for await (const file of keptFiles(from)) {
    await assertAsWritten(join(from, MEDIA_FOLDER, file.path), file, signal);
    await assertNoOther(join(mediaRoot, file.path), file);
    checked++;
    onProgress?.('checked', checked, whole.files);
  }
  if (checked !== whole.files) throw new Error(`The backup lists ${checked} files and should hold ${whole.files}.`);
  openStore(mediaRoot);
  const { bavail, bsize } = await statfs(mediaRoot);
  if (bavail * bsize < whole.bytes)
    throw new Error(`${mediaRoot} has ${megabytes(bavail * bsize)} free; the backup needs ${megabytes(whole.bytes)}.`);
  let placed = 0;
  for await (const file of keptFiles(from)) {
    const to = join(mediaRoot, file.path);
    if (!(await isThere(to))) await copied(join(from, MEDIA_FOLDER, file.path), to, signal);
    placed++;
    onProgress?.('in place', placed, whole.files);
  }
  const args = ['--exit-on-error', '--single-transaction', '--no-owner', '--no-privileges', '--dbname'];
  await runTool('pg_restore', [...args, databaseName(databaseUrl), join(from, DATABASE_FILE)], databaseUrl, signal);
  return whole;
}
const megabytes = (bytes: number): string => `${Math.ceil(bytes / 1e6)} MB`;
const databaseName = (url: string): string => decodeURIComponent(new URL(url).pathname.slice(1));

async function assertEmpty(databaseUrl: string): Promise<void> {
  const client = new pg.Client({ connectionString: databaseUrl });
  await client.connect();
  try {
    const { rows } = await client.query(`select 1 from pg_tables where schemaname in ('public', 'graphile_worker')`);
    if (rows.length > 0)
      throw new Error('The database is not empty: a backup is put into a new one, so that nothing is lost.');
  } finally {
    await client.end();
  }
}

async function assertAsWritten(path: string, file: KeptFile, signal?: AbortSignal): Promise<void> {
  const found = await hashFile(path, signal).catch((error: unknown) => {
    if (signal?.aborted) throw error;
    return undefined;
  });
  if (found !== file.sha256)
    throw new Error(`${path} is ${found ? 'not as it was written' : 'missing'}: the backup is damaged.`);
}
/** A file of that name may be there already, of a restore that was broken off: the same one. */
async function assertNoOther(path: string, file: KeptFile): Promise<void> {
  if (!(await isThere(path))) return;
  if ((await hashFile(path)) !== file.sha256)
    throw new Error(`${path} is another file: a backup is put into a media folder of its own.`);
}
const isThere = (path: string): Promise<boolean> =>
  stat(path).then(
    () => true,
    () => false,
  );
