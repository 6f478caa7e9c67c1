import { createHash, randomUUID } from 'node:crypto';
import { createReadStream, createWriteStream } from 'node:fs';
import { mkdir, rename, rm } from 'node:fs/promises';
import { dirname } from 'node:path';
import { Transform } from 'node:stream';
import { pipeline } from 'node:stream/promises';

export interface Copied {
  bytes: number;
  sha256: string;
}

/** Copies a file and says what was copied. It gets its name once all of it has been written. */
export async function copied(from: string, to: string, signal?: AbortSignal): Promise<Copied> {
  const hash = createHash('sha256');
  let bytes = 0;
  const counted = new Transform({
    transform(chunk: Buffer, _encoding, done) {
      hash.update(chunk);
      bytes += chunk.length;
      done(null, chunk);
    },
  });
  await mkdir(dirname(to), { recursive: true });
  const part = `${to}.${randomUUID()}.part`;
  try {
    await pipeline(createReadStream(from), counted, createWriteStream(part, { flush: true }), { signal });
    await rename(part, to);
  } catch (error) {
    await rm(part, { force: true });
    throw error;
  }
  return { bytes, sha256: hash.digest('hex') };
}
