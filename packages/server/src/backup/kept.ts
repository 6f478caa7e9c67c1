// What a backup holds: `database.dump`, files of the media folder under `media`, a list of them, and, written last,
// what makes it whole.
import { createReadStream } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { createInterface } from 'node:readline';
import { z } from 'zod';
import { hashFile } from '../media/hashes.ts';

export const DATABASE_FILE = 'database.dump';
export const MEDIA_FOLDER = 'media';
export const LIST_FILE = 'files.jsonl';
export const WHOLE_FILE = 'backup.json';

/** The parts of the media folder that are kept. What users drop in and take out, and what is under way, is not. */
export const KEPT_PARTS = ['store', 'frames', 'deliveries', 'cubes'] as const;

const FORMAT = 'mellow-hue-backup';
const BACKUP_VERSION = 1;
const keptFile = z.object({
  /** Within the media folder, with forward slashes. */
  path: z
    .string()
    .refine((path) => !path.split('/').includes('..') && !path.startsWith('/'), 'leads out of the folder'),
  bytes: z.int().nonnegative(),
  sha256: z.hex().length(64),
});
export type KeptFile = z.infer<typeof keptFile>;
const whole = z.object({
  format: z.literal(FORMAT),
  version: z.literal(BACKUP_VERSION),
  at: z.iso.datetime(),
  /** The program's version and its newest migration. */
  program: z.string(),
  migration: z.int(),
  files: z.int(),
  bytes: z.int(),
  /** SHA-256 of the list of files, and of the database. */
  list: z.hex().length(64),
  database: z.hex().length(64),
});
export type WholeBackup = z.infer<typeof whole>;
export const wholeBackup = (of: Omit<WholeBackup, 'format' | 'version'>): WholeBackup => ({
  format: FORMAT,
  version: BACKUP_VERSION,
  ...of,
});

/** Reads what makes a backup whole, and checks its list and database by it. Throws a plain sentence. */
export async function readWhole(folder: string, signal?: AbortSignal): Promise<WholeBackup> {
  const text = await readFile(join(folder, WHOLE_FILE), 'utf8').catch(() => {
    throw new Error(`${folder} is no backup, or one that was not finished: ${WHOLE_FILE} is not there.`);
  });
  const read = whole.safeParse(parsed(text));
  if (!read.success) throw new Error(`${join(folder, WHOLE_FILE)} is not what this version of Mellow Hue writes.`);
  for (const [name, sha256] of [
    [LIST_FILE, read.data.list],
    [DATABASE_FILE, read.data.database],
  ] as const) {
    const found = await hashFile(join(folder, name), signal).catch(() => undefined);
    if (found !== sha256) throw new Error(`${join(folder, name)} is not as it was written: the backup is damaged.`);
  }
  return read.data;
}

/** The files of a backup, one after the other: there may be millions. */
export async function* keptFiles(folder: string): AsyncGenerator<KeptFile> {
  for await (const line of createInterface({ input: createReadStream(join(folder, LIST_FILE)) }))
    yield keptFile.parse(parsed(line));
}
function parsed(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return undefined;
  }
}
