// A pass's carrier kept in a file, so that a pass that was broken off goes on from there.
import { createHash } from 'node:crypto';
import { readdir, readFile, rename, rm, stat, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { deserialize, serialize } from 'node:v8';
import type { CarrierState } from '@mellow/core';
import { partOf } from '../media/leftovers.ts';
import { keptCarriersFolder, type MediaStore } from '../media/store.ts';

/** Of files written by another version of what they hold, nothing is read. */
const VERSION = 1;
/** What a pass that nobody went on with has left is cleared away after so many days. */
const KEPT_DAYS = 3;

interface Kept {
  version: number;
  /** What the pass was made of; another balance or other strokes are another pass. */
  madeOf: string;
  /** The frame it had come to. */
  at: number;
  state: CarrierState;
}

/** In short, all that a pass is made of. */
export const markOf = (made: unknown): string => createHash('sha256').update(JSON.stringify(made)).digest('hex');

export const keptCarrierPath = (store: MediaStore, runId: string): string =>
  join(keptCarriersFolder(store), `${runId}.carrier`);

/** Written whole or not at all, also when the process is killed meanwhile. */
export async function keepCarrier(path: string, kept: Omit<Kept, 'version'>): Promise<void> {
  const part = partOf(path);
  try {
    await writeFile(part, serialize({ version: VERSION, ...kept } satisfies Kept));
    await rename(part, path);
  } catch (error) {
    await rm(part, { force: true });
    throw error;
  }
}
/** Undefined where there is none, of another version or of something else, or not whole. */
export async function readKeptCarrier(path: string, madeOf: string): Promise<Kept | undefined> {
  try {
    const kept = deserialize(await readFile(path)) as Kept;
    return kept.version === VERSION && kept.madeOf === madeOf ? kept : undefined;
  } catch {
    // the pass then begins anew, and finds the same
    return undefined;
  }
}
export async function dropKeptCarrier(store: MediaStore, runId: string): Promise<void> {
  const path = keptCarrierPath(store, runId);
  for (const left of [path, partOf(path)]) await rm(left, { force: true });
}
/** Clears away what passes have left that nobody went on with. */
export async function clearKeptCarriers(store: MediaStore, now = Date.now()): Promise<void> {
  const folder = keptCarriersFolder(store);
  for (const name of await readdir(folder)) {
    const path = join(folder, name);
    const written = await stat(path).catch(() => undefined);
    if (written && now - written.mtimeMs > KEPT_DAYS * 86_400_000) await rm(path, { force: true });
  }
}
