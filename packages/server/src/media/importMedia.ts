import { createHash, randomUUID } from 'node:crypto';
import { createReadStream } from 'node:fs';
import { copyFile, mkdir, rename, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import type { MediaId } from '@mellow/contract';
import { findMediaByHash, insertMedia, type StoredMedia } from '../db/media.ts';
import type { Queryable } from '../db/pool.ts';
import { probeMedia } from './probe.ts';
import { groupFiles, type FileGroup } from './sequence.ts';
import { mediaFolder, safeFileName, type MediaStore } from './store.ts';

/** A file that lies ready: where it is now and what the user calls it. */
export interface IncomingFile {
  path: string;
  name: string;
}

async function hashFile(path: string): Promise<string> {
  const hash = createHash('sha256');
  await pipeline(createReadStream(path), hash);
  return hash.digest('hex');
}

/** SHA-256 of a video, or of the names and hashes of a sequence's files in order. */
async function hashGroup(group: FileGroup, pathOf: (file: string) => string): Promise<string> {
  if (group.kind === 'video') return hashFile(pathOf(group.files[0]!));
  const hash = createHash('sha256');
  for (const file of group.files) hash.update(`${file}\0${await hashFile(pathOf(file))}\n`);
  return hash.digest('hex');
}

/**
 * Checks, describes and stores footage. All groups are checked before any is stored; a refusal (`Refused`) stores
 * nothing. `keep` copies the files (media folder) instead of moving them (upload). Known footage is found by its hash.
 */
export async function importFiles(
  db: Queryable,
  store: MediaStore,
  incoming: readonly IncomingFile[],
  options: { fps?: number; keep: boolean },
): Promise<StoredMedia[]> {
  const byName = new Map(incoming.map((file) => [safeFileName(file.name), file.path]));
  const groups = groupFiles([...byName.keys()]);
  const fps = options.fps ? { num: Math.round(options.fps * 1000), den: 1000 } : { num: 24, den: 1 };
  // checked in a folder of their own under their own names, so that a sequence's pattern meets just its files
  const bench = join(store.staging, randomUUID());
  await mkdir(bench, { recursive: true });
  try {
    const checked: StoredMedia[] = [];
    for (const group of groups) {
      for (const file of group.files) await (options.keep ? copyFile : rename)(byName.get(file)!, join(bench, file));
      const { described, firstFrameSeconds } = await probeMedia({
        path: join(bench, group.input),
        startNumber: group.startNumber,
        name: group.name,
        fps,
      });
      const sha256 = await hashGroup(group, (file) => join(bench, file));
      const known = await findMediaByHash(db, sha256);
      checked.push(
        known ?? {
          media: {
            id: randomUUID() as MediaId,
            sha256,
            name: group.name,
            kind: group.kind,
            ...described,
            frames: group.kind === 'sequence' ? group.files.length : described.frames,
          },
          files: { folder: sha256, input: group.input, startNumber: group.startNumber, firstFrameSeconds },
        },
      );
      if (known) continue;
      const home = mediaFolder(store, sha256);
      await rm(home, { recursive: true, force: true });
      await mkdir(home, { recursive: true });
      for (const file of group.files) await rename(join(bench, file), join(home, file));
    }
    for (const each of checked) if (!(await findMediaByHash(db, each.media.sha256))) await insertMedia(db, each);
    return checked;
  } finally {
    await rm(bench, { recursive: true, force: true });
  }
}
