import { createHash } from 'node:crypto';
import { createReadStream } from 'node:fs';
import { pipeline } from 'node:stream/promises';

/** SHA-256 of a file's bytes, as hexadecimal digits. */
export async function hashFile(path: string, signal?: AbortSignal): Promise<string> {
  const hash = createHash('sha256');
  await pipeline(createReadStream(path), hash, { signal });
  return hash.digest('hex');
}

/** A file of a media and its own hash. */
export interface HashedFile {
  name: string;
  sha256: string;
}

/**
 * SHA-256 of a media: of a video its file's, of a sequence that of the names and hashes of its files in order. Frames
 * of a video that are taken one by one are another media.
 */
export function hashOfMedia(kind: 'video' | 'sequence', files: readonly HashedFile[], oneByOne: boolean): string {
  if (kind === 'video' && !oneByOne) return files[0]!.sha256;
  const hash = createHash('sha256');
  if (oneByOne) hash.update('frame by frame\n');
  for (const { name, sha256 } of files) hash.update(`${name}\0${sha256}\n`);
  return hash.digest('hex');
}
