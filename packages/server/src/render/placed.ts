// Finished renders in the server's render folder: whole, and over nothing that was there.
import { randomUUID } from 'node:crypto';
import { copyFile, cp, mkdir, open, rename, rm } from 'node:fs/promises';
import { extname, join } from 'node:path';
import { partOf } from '../media/leftovers.ts';
import { safeFileName, type MediaStore } from '../media/store.ts';

export interface Finished {
  /** The file, or the folder of a sequence. */
  path: string;
  isFolder: boolean;
  /** As it is downloaded: a sequence's is that of its zip. */
  fileName: string;
  projectName: string;
}
const isTaken = (error: unknown): boolean =>
  ['EEXIST', 'ENOTEMPTY', 'ENOTDIR'].includes((error as NodeJS.ErrnoException).code ?? '');

/**
 * Copies a finished render into the render folder, under a folder of the project's name: a file as it is called, a
 * sequence as a folder. Where that name is taken, it is counted up. The path below the render folder.
 */
export async function place(
  { outbox }: Pick<MediaStore, 'outbox'>,
  { path, isFolder, fileName, projectName }: Finished,
): Promise<string> {
  const project = safeFileName(projectName.replace(/^\.+$/, 'project'));
  const end = extname(fileName);
  const stem = fileName.slice(0, fileName.length - end.length);
  await mkdir(join(outbox, project), { recursive: true });
  const part = partOf(join(outbox, project, `.${randomUUID()}`));
  try {
    await (isFolder ? cp(path, part, { recursive: true }) : copyFile(path, part));
    for (let n = 1; ; n++) {
      const name = `${stem}${n === 1 ? '' : ` (${n})`}${isFolder ? '' : end}`;
      const target = join(outbox, project, name);
      try {
        // a folder takes the place of no other that holds something; a file would, so its name is taken first
        if (!isFolder) await (await open(target, 'wx')).close();
        await rename(part, target);
        return `${project}/${name}`;
      } catch (error) {
        if (!isTaken(error)) throw error;
      }
    }
  } finally {
    await rm(part, { recursive: true, force: true });
  }
}
