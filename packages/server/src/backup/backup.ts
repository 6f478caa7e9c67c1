import { createWriteStream } from 'node:fs';
import { opendir, readdir, rm, writeFile } from 'node:fs/promises';
import { join, relative, sep } from 'node:path';
import { finished } from 'node:stream/promises';
import pg from 'pg';
import { makeFolder } from '../folders.ts';
import { hashFile } from '../media/hashes.ts';
import { mediaFolder } from '../media/store.ts';
import { copied } from './copied.ts';
import {
  DATABASE_FILE,
  KEPT_PARTS,
  LIST_FILE,
  MEDIA_FOLDER,
  WHOLE_FILE,
  wholeBackup,
  type KeptFile,
  type WholeBackup,
} from './kept.ts';
import { runTool } from './postgresTools.ts';

export interface BackupOf {
  databaseUrl: string;
  mediaRoot: string;
  /** A folder that is not there yet, or is empty. */
  to: string;
  program: string;
  /** Told after every file: how many there are so far, and their bytes. */
  onProgress?: (files: number, bytes: number) => void;
  signal?: AbortSignal;
}

/**
 * Backs up an installation, which may be in use: the database as it is at one moment, then the files of the media
 * folder. Those are written under another name first and never changed afterwards, so that all which the database knew
 * of at that moment are there. Nothing is left behind when it fails. Throws a plain sentence.
 */
export async function backUp({
  databaseUrl,
  mediaRoot,
  to,
  program,
  onProgress,
  signal,
}: BackupOf): Promise<WholeBackup> {
  if ((await readdir(to).catch(() => [])).length > 0) throw new Error(`${to} is not empty: name a new folder.`);
  makeFolder(to, 0o700);
  try {
    const at = new Date().toISOString();
    const { migration, stored } = await dumped(databaseUrl, join(to, DATABASE_FILE), signal);
    const { files, bytes } = await mediaCopied(mediaRoot, to, onProgress, signal);
    for (const sha256 of stored) await assertKept(to, mediaRoot, sha256);
    const list = await hashFile(join(to, LIST_FILE), signal);
    const database = await hashFile(join(to, DATABASE_FILE), signal);
    const whole = wholeBackup({ at, program, migration, files, bytes, list, database });
    await writeFile(join(to, WHOLE_FILE), `${JSON.stringify(whole, null, 2)}\n`, { flush: true });
    return whole;
  } catch (error) {
    await rm(to, { recursive: true, force: true });
    throw error;
  }
}

/** Dumps a database as it is at one moment; says what is known of the media then. */
async function dumped(databaseUrl: string, file: string, signal?: AbortSignal) {
  const client = new pg.Client({ connectionString: databaseUrl });
  await client.connect();
  try {
    await client.query('begin isolation level repeatable read, read only');
    const [{ snapshot }] = (await client.query<{ snapshot: string }>('select pg_export_snapshot() as snapshot'))
      .rows as [{ snapshot: string }];
    const { rows: media } = await client.query<{ sha256: string }>('select distinct sha256 from media');
    const { rows } = await client.query<{ migration: number }>('select max(version) as migration from migration');
    await runTool('pg_dump', ['--format=custom', `--snapshot=${snapshot}`, `--file=${file}`], databaseUrl, signal);
    return { migration: rows[0]!.migration, stored: media.map((m) => m.sha256) };
  } finally {
    await client.end();
  }
}

async function mediaCopied(
  mediaRoot: string,
  to: string,
  onProgress: BackupOf['onProgress'],
  signal: AbortSignal | undefined,
): Promise<{ files: number; bytes: number }> {
  const list = createWriteStream(join(to, LIST_FILE), { flush: true });
  let [files, bytes] = [0, 0];
  for (const part of KEPT_PARTS)
    for await (const path of filesIn(join(mediaRoot, part))) {
      const within = relative(mediaRoot, path).split(sep).join('/');
      const copy = await copied(path, join(to, MEDIA_FOLDER, within), signal).catch((error: unknown) => {
        // frames that are being made anew: what needs them is under way, and makes them again
        if ((error as NodeJS.ErrnoException).code === 'ENOENT') return undefined;
        throw error;
      });
      if (!copy) continue;
      const kept: KeptFile = { path: within, ...copy };
      list.write(`${JSON.stringify(kept)}\n`);
      files++;
      bytes += copy.bytes;
      onProgress?.(files, bytes);
    }
  list.end();
  await finished(list);
  return { files, bytes };
}

/** The finished files in a folder and those below it. */
async function* filesIn(folder: string): AsyncGenerator<string> {
  for await (const entry of await opendir(folder)) {
    const path = join(folder, entry.name);
    if (entry.name.endsWith('.part') || entry.name.startsWith('.')) continue;
    if (entry.isDirectory()) yield* filesIn(path);
    else if (entry.isFile()) yield path;
  }
}

async function assertKept(to: string, mediaRoot: string, sha256: string): Promise<void> {
  const folder = relative(mediaRoot, mediaFolder({ root: mediaRoot }, sha256));
  const kept = await readdir(join(to, MEDIA_FOLDER, folder)).catch(() => []);
  if (kept.length === 0)
    throw new Error(`Footage ${sha256.slice(0, 12)}… is in the database but not in the media folder ${mediaRoot}.`);
}
