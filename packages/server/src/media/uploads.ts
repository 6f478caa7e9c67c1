// Files that people send, which go on from where they were broken off: each lies in its owner's folder under its id,
// beside a description of it, until it is brought in, dropped, or has been left alone for too long.
import { readdir, readFile, rm, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { z } from 'zod';
import { UploadId, type Upload } from '@mellow/contract';
import { NotFound, Refused } from '../errors.ts';
import { hashFile } from './hashes.ts';
import type { IncomingFile } from './sequence.ts';
import { uploadsFolder, type MediaStore } from './store.ts';

/** What nobody has gone on with for so long is removed: a week. */
const FORGOTTEN_MS = 7 * 24 * 3600 * 1000;

/** What the library that takes the bytes writes of each file; `size` is missing where the sender has not said it. */
const Described = z.object({
  size: z.number().int().nonnegative(),
  metadata: z.object({ filename: z.string().min(1), lastModified: z.string().nullish() }),
});

async function describedAt(folder: string, id: string): Promise<Upload | undefined> {
  const [text, file] = await Promise.all([
    readFile(join(folder, `${id}.json`), 'utf8').catch(() => undefined),
    stat(join(folder, id)).catch(() => undefined),
  ]);
  if (text === undefined || !file?.isFile()) return undefined;
  const described = Described.safeParse(parsed(text));
  if (!described.success) return undefined;
  const { size, metadata } = described.data;
  const at = Number(metadata.lastModified ?? NaN);
  const lastModified = Number.isFinite(at) ? at : null;
  return { id: UploadId.parse(id), name: metadata.filename, bytes: size, here: file.size, lastModified };
}
function parsed(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    // its process was killed while it wrote this: there is nothing of the file yet
    return undefined;
  }
}

/** Somebody's files, in no order. */
export async function listUploads(store: MediaStore, personId: string | null): Promise<Upload[]> {
  const folder = uploadsFolder(store, personId);
  const names = await readdir(folder).catch(() => []);
  const ids = names.filter((name) => UploadId.safeParse(name).success);
  const found = await Promise.all(ids.map((id) => describedAt(folder, id)));
  return found.filter((upload) => upload !== undefined);
}

export async function removeUploads(
  store: MediaStore,
  personId: string | null,
  ids: readonly UploadId[],
): Promise<void> {
  const folder = uploadsFolder(store, personId);
  for (const id of ids) {
    await rm(join(folder, id), { force: true });
    await rm(join(folder, `${id}.json`), { force: true });
  }
}

/**
 * A file that is here as a whole and is what was sent: its bytes have the hash that they had where they came from. One
 * that has not is removed. Throws NotFound, and Refused where it is not whole or was changed on its way.
 */
export async function sentFile(
  store: MediaStore,
  personId: string | null,
  { id, sha256 }: { id: UploadId; sha256: string },
  signal?: AbortSignal,
): Promise<IncomingFile> {
  const folder = uploadsFolder(store, personId);
  const upload = await describedAt(folder, id);
  if (!upload) throw new NotFound('upload', id);
  const { name, bytes, here } = upload;
  if (here < bytes)
    throw new Refused('conflict', `Of “${name}” only ${here} of ${bytes} bytes are here: send the rest.`);
  const path = join(folder, id);
  if ((await hashFile(path, signal)) === sha256) return { path, name };
  await removeUploads(store, personId, [id]);
  throw new Refused(
    'invalid-input',
    `“${name}” is not what was sent: it was changed on its way, or while it was read. Send it again.`,
    [{ path: 'files', message: `${name}: another SHA-256` }],
  );
}

/** Removes what nobody has gone on with for a week, and descriptions without a file. Gives the paths. */
export async function clearForgottenUploads(root: string, now = Date.now()): Promise<string[]> {
  const all = join(root, 'uploads');
  const left: string[] = [];
  for (const person of await readdir(all).catch(() => []))
    for (const name of await readdir(join(all, person)).catch(() => [])) {
      const path = join(all, person, name);
      const touched = await stat(path.replace(/\.json$/, '')).catch(() => stat(path).catch(() => undefined));
      if (touched && now - touched.mtimeMs >= FORGOTTEN_MS) left.push(path);
    }
  for (const path of left) await rm(path, { force: true });
  return left;
}
