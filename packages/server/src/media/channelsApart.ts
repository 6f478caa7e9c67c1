// Mattes of several pieces in one OpenEXR, a channel each: every channel becomes a plate of its own.
import { randomUUID } from 'node:crypto';
import { mkdir, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { apart } from './rewriting.ts';
import type { IncomingFile } from './sequence.ts';

/**
 * The same files, with those that hold nothing but channels of other names taken apart, each channel as a grey picture
 * of its own in a folder of `staging`; `done` removes it. Throws Refused for one that cannot be read.
 */
export async function channelsApart(
  incoming: readonly IncomingFile[],
  staging: string,
): Promise<{ files: IncomingFile[]; done: () => Promise<void> }> {
  const folder = join(staging, randomUUID());
  const done = () => rm(folder, { recursive: true, force: true });
  await mkdir(folder, { recursive: true });
  try {
    const files: IncomingFile[] = [];
    for (const file of incoming)
      files.push(...((/\.exr$/i.test(file.name) ? await apart(file, folder) : undefined) ?? [file]));
    return { files, done };
  } catch (error) {
    await done();
    throw error;
  }
}
