// Look-up tables: kept once, under the hash of their bytes.
import { createHash, randomUUID } from 'node:crypto';
import { readFile, rename, stat, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { isStorable, type CubeFile } from '@mellow/contract';
import { CubeError, withPlacedNumbers, type LookTable } from '@mellow/core';
import { readTable } from '@mellow/core/readTable';
import { Refused } from '../errors.ts';
import type { IncomingFile } from './sequence.ts';
import { cubePath, type MediaStore } from './store.ts';

/** A table of 129 entries a side is 60 MB of text. */
const MOST_BYTES = 100e6;

/** Reads and keeps a table. Refuses one that cannot be read, with the line. */
export async function importCube(store: MediaStore, { path, name }: IncomingFile): Promise<CubeFile> {
  const refused = (what: string) =>
    new Refused('invalid-input', `“${name}” is no look-up table. ${what}`, [{ path: name, message: what }]);
  if ((await stat(path)).size > MOST_BYTES) throw refused(`It is larger than ${MOST_BYTES / 1e6} MB.`);
  const bytes = await readFile(path);
  let table: LookTable;
  try {
    table = readTable(bytes.toString('utf8'));
  } catch (error) {
    throw error instanceof CubeError ? refused(error.message) : error;
  }
  const sha256 = createHash('sha256').update(bytes).digest('hex');
  const part = join(store.staging, `${randomUUID()}.cube`);
  await writeFile(part, bytes);
  await rename(part, cubePath(store, sha256));
  const title =
    ((isStorable(table.title) && table.title) || name.replace(/\.(cube|clf|xml)$/i, '')).trim().slice(0, 120) ||
    'Table';
  return { sha256, name: title, kind: table.kind, size: table.kind === 'CLF' ? table.steps.length : table.size };
}

/** A table that was kept, its numbers in memory that threads share. Throws where it is no longer there. */
export async function keptTable(store: MediaStore, sha256: string): Promise<LookTable> {
  const table = readTable(await readFile(cubePath(store, sha256), 'utf8'));
  return withPlacedNumbers(table, (values) => {
    const shared = new Float32Array(new SharedArrayBuffer(values.byteLength));
    shared.set(values);
    return shared;
  });
}
