// Is the footage still what was brought in?
import { stat } from 'node:fs/promises';
import { join } from 'node:path';
import type { FootageFault } from '@mellow/contract';
import type { StoredMedia } from '../db/media.ts';
import { fileNames } from './fileNames.ts';
import { hashFile, hashOfMedia, type HashedFile } from './hashes.ts';
import { mediaFolder, type MediaStore } from './store.ts';

/** Hashes of files that have been read, with what the file system said of them then: a file is read once. */
const known = new Map<string, { stamp: string; sha256: string }>();

/** SHA-256 of a file, read once in the life of the process. Undefined where there is no such file. */
export async function hashOnce(path: string, signal?: AbortSignal): Promise<string | undefined> {
  const found = await stat(path).catch(() => undefined);
  if (!found) return undefined;
  const stamp = `${found.ino} ${found.size} ${found.mtimeMs} ${found.ctimeMs}`;
  const before = known.get(path);
  if (before?.stamp === stamp) return before.sha256;
  const sha256 = await hashFile(path, signal);
  known.set(path, { stamp, sha256 });
  return sha256;
}

/**
 * What is wrong with the files of a media: one that is missing, or other bytes than were brought in. Undefined:
 * nothing. Reads each file once in the life of the process.
 */
export async function footageFault(
  store: MediaStore,
  stored: StoredMedia,
  signal?: AbortSignal,
): Promise<FootageFault | undefined> {
  const { media, files } = stored;
  const of = { mediaId: media.id, name: media.name };
  const hashed: HashedFile[] = [];
  for (const name of fileNames(stored)) {
    const sha256 = await hashOnce(join(mediaFolder(store, files.folder), name), signal);
    if (sha256 === undefined) return { ...of, fault: 'missing', file: name };
    hashed.push({ name, sha256 });
  }
  const isSame = [false, true].some((oneByOne) => hashOfMedia(media.kind, hashed, oneByOne) === media.sha256);
  return isSame ? undefined : { ...of, fault: 'changed', file: null };
}

export const faultText = ({ name, fault, file }: FootageFault): string =>
  fault === 'missing'
    ? `the footage “${name}” is no longer whole: its file “${file}” is missing`
    : `the footage “${name}” is no longer what was brought in: its files have changed`;
