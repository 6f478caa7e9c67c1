import { randomUUID } from 'node:crypto';
import { existsSync } from 'node:fs';
import { copyFile, link, mkdir, rename, rm } from 'node:fs/promises';
import { join, relative } from 'node:path';
import type pg from 'pg';
import type { ImportOptions, MediaId, RefusedFile } from '@mellow/contract';
import { noteLoose, settleLoose } from '../db/looseFiles.ts';
import { holdingFootage, keepMedia, noteBytes, wantMediaByHash, type StoredMedia } from '../db/media.ts';
import { Refused } from '../errors.ts';
import { treeBytes } from '../keeping/treeBytes.ts';
import { fileNames } from './fileNames.ts';
import { readable } from './floatTiffs.ts';
import { hashFile, hashOfMedia, type HashedFile } from './hashes.ts';
import { probeMedia } from './probe.ts';
import { groupFiles, type FileGroup, type IncomingFile } from './sequence.ts';
import { UnevenTiming } from './timing.ts';
import { mediaFolder, type MediaStore } from './store.ts';

/** What came in, in the order it was sent, and what did not. */
export interface Imported {
  media: StoredMedia[];
  /** Of these, what was known and had lost files, which it has again now. */
  restored: StoredMedia[];
  refused: RefusedFile[];
}

async function hashGroup({ kind, files }: FileGroup, folder: string, oneByOne: boolean): Promise<string> {
  const hashed: HashedFile[] = [];
  for (const { name } of files) hashed.push({ name, sha256: await hashFile(join(folder, name)) });
  return hashOfMedia(kind, hashed, oneByOne);
}

export interface ImportHow extends ImportOptions {
  /** What happens to the files where they lie. */
  take: keyof typeof TAKE;
  /** Aborted: no further video or sequence is begun with. */
  signal?: AbortSignal;
}
/** `leave`: they are another's. `spare`: whoever sent them removes them once they are in; they cost no second room. */
const TAKE = { move: rename, leave: copyFile, spare: linkOrCopy };
const NO_LINKS = ['EPERM', 'EXDEV', 'EMLINK', 'ENOTSUP', 'ENOSYS'];
async function linkOrCopy(from: string, to: string): Promise<void> {
  try {
    await link(from, to);
  } catch (error) {
    if (!NO_LINKS.includes(String((error as NodeJS.ErrnoException).code))) throw error;
    await copyFile(from, to);
  }
}

/**
 * Checks, describes and stores footage. Every video and every numbered sequence stands alone: what is refused is listed
 * with its reason and leaves nothing behind, the others come in. Known footage is found by its hash.
 */
export async function importFiles(
  pool: pg.Pool,
  store: MediaStore,
  incoming: readonly IncomingFile[],
  options: ImportHow,
): Promise<Imported> {
  const { groups, refused } = groupFiles(incoming);
  const imported: Imported = { media: [], restored: [], refused };
  for (const group of groups) {
    options.signal?.throwIfAborted();
    try {
      const { stored, isRestored } = await importGroup(pool, store, group, options);
      imported.media.push(stored);
      if (isRestored) imported.restored.push(stored);
    } catch (error) {
      if (!(error instanceof Refused)) throw error;
      const offer = error instanceof UnevenTiming ? { timing: 'frame by frame' as const, fps: error.fps } : null;
      imported.refused.push({ name: group.name, reason: error.message, offer });
    }
  }
  return imported;
}

async function importGroup(
  pool: pg.Pool,
  store: MediaStore,
  given: FileGroup,
  options: ImportHow,
): Promise<{ stored: StoredMedia; isRestored: boolean }> {
  const fps = options.fps ? { num: Math.round(options.fps * 1000), den: 1000 } : { num: 24, den: 1 };
  // checked in a folder of its own under its own names, so that a sequence's pattern meets just its files
  const bench = join(store.staging, randomUUID());
  await mkdir(bench, { recursive: true });
  try {
    for (const { path, name } of given.files) await TAKE[options.take](path, join(bench, name));
    const { group, notes } = await readable(given, bench);
    const { described, firstFrameSeconds, oneByOne } = await probeMedia({
      path: join(bench, group.input),
      startNumber: group.startNumber,
      name: group.name,
      fps,
      timing: options.timing ?? 'as stamped',
      files: group.files.map(({ name }) => join(bench, name)),
    });
    const sha256 = await hashGroup(group, bench, oneByOne);
    const fresh: StoredMedia = {
      media: {
        id: randomUUID() as MediaId,
        sha256,
        name: group.name,
        kind: group.kind,
        ...described,
        notes: [...notes, ...described.notes],
      },
      files: { folder: sha256, input: group.input, startNumber: group.startNumber, firstFrameSeconds },
    };
    return await holdingFootage(pool, sha256, async (db) => {
      const known = await wantMediaByHash(db, sha256);
      if (known) {
        const isRestored = await bringBack(store, group, bench, known);
        // its shot is called as it was this time
        return { stored: { ...known, media: { ...known.media, name: group.name } }, isRestored };
      }
      const home = mediaFolder(store, sha256);
      await noteLoose(db, [relative(store.root, home)]);
      await rm(home, { recursive: true, force: true });
      await mkdir(home, { recursive: true });
      for (const { name } of group.files) await rename(join(bench, name), join(home, name));
      const stored = await keepMedia(db, fresh);
      await settleLoose(db, relative(store.root, home));
      await noteBytes(db, stored.media.id, await treeBytes(home));
      return { stored, isRestored: false };
    });
  } finally {
    await rm(bench, { recursive: true, force: true });
  }
}

/** Known footage of which files have gone gets them again: the bytes are the same. False where none had. */
async function bringBack(store: MediaStore, group: FileGroup, bench: string, known: StoredMedia): Promise<boolean> {
  const home = mediaFolder(store, known.files.folder);
  await mkdir(home, { recursive: true });
  const names = fileNames(known);
  const gone = group.files.map(({ name }, i) => ({ from: join(bench, name), to: join(home, names[i]!) }));
  const lost = gone.filter(({ to }) => !existsSync(to));
  for (const { from, to } of lost) await rename(from, to);
  return lost.length > 0;
}
