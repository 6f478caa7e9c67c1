import { chmodSync, mkdirSync, statSync } from 'node:fs';
import { realpath } from 'node:fs/promises';
import { basename, join, sep } from 'node:path';
import type { FrameSize } from '@mellow/contract';
import { Refused } from '../errors.ts';
import { makeFolder } from '../folders.ts';
import { processName } from './leftovers.ts';

/**
 * The media folder: what users drop in, what was imported, what was made from it. One per installation, shared by all
 * workers.
 */
export interface MediaStore {
  root: string;
  inbox: string;
  /** The render folder: what renders are put into, for others to take. */
  outbox: string;
  /** This process's own: what is on its way in. Gone with it; see leftovers.ts. */
  staging: string;
}
export function openStore(root: string): MediaStore {
  const [inbox, outbox] = [join(root, 'inbox'), join(root, 'outbox')];
  const staging = join(root, 'staging', processName());
  const store = { root, inbox, outbox, staging };
  makeFolder(root);
  for (const folder of [inbox, outbox]) mkdirSync(folder, { recursive: true });
  for (const part of OWN_PARTS) ownFolder(join(root, part));
  mkdirSync(staging, { recursive: true });
  return store;
}
/** Where nobody but the server's own user has anything to do: pictures of what is not public yet lie there. */
const OWN_PARTS = ['staging', 'uploads', 'store', 'frames', 'deliveries', 'cubes', 'carrying'];
function ownFolder(path: string): void {
  mkdirSync(path, { recursive: true, mode: OWN_ONLY });
  try {
    // one that was there before, of an earlier version
    if ((statSync(path).mode & 0o777) !== OWN_ONLY) chmodSync(path, OWN_ONLY);
  } catch {
    // another's, or on a disk that cannot be written to: who keeps that says who may read it
  }
}
const OWN_ONLY = 0o700;
export const mediaFolder = (store: Pick<MediaStore, 'root'>, sha256: string): string =>
  join(store.root, 'store', sha256);
export const framesFolder = (store: MediaStore, mediaId: string, size: FrameSize): string =>
  join(store.root, 'frames', mediaId, size);
export const framePath = (store: MediaStore, mediaId: string, size: FrameSize, frame: number): string =>
  join(framesFolder(store, mediaId, size), `${String(frame).padStart(6, '0')}.png`);
export const cubePath = (store: MediaStore, sha256: string): string => join(store.root, 'cubes', `${sha256}.cube`);
/** Files on their way of somebody; of nobody in particular where nobody signs in. */
export const uploadsFolder = (store: Pick<MediaStore, 'root'>, personId: string | null): string =>
  join(store.root, 'uploads', personId ?? 'anybody');
/** Where passes that are being made keep how far they have come. */
export const keptCarriersFolder = (store: MediaStore): string => join(store.root, 'carrying');
export const deliveryFolder = (store: MediaStore, deliveryId: string): string =>
  join(store.root, 'deliveries', deliveryId);

/** Bytes a stored file name may have: the file systems' 255, with room for what is put before and after it. */
const MOST_NAME_BYTES = 200;

/**
 * A file name as it may be stored: no folders, no control characters, not hidden, no printf sign, no half characters,
 * and short enough for any file system (its end is kept: number and extension). Refuses what is left empty.
 */
export function safeFileName(name: string): string {
  const clean = basename(name.toWellFormed().replaceAll('\\', '/'))
    // eslint-disable-next-line no-control-regex
    .replace(/[\u0000-\u001f%:*?"<>|]/g, '_')
    .replace(/^\.+/, '');
  if (!clean)
    throw new Refused('invalid-input', `“${name}” is not a file name.`, [
      { path: 'files', message: 'not a file name' },
    ]);
  const characters = Array.from(clean.slice(-MOST_NAME_BYTES));
  while (Buffer.byteLength(characters.join('')) > MOST_NAME_BYTES) characters.shift();
  return characters.join('');
}

/** The real path of something in the media folder's inbox; refuses `..` and links that lead out of it. */
export async function inboxPath(store: MediaStore, relative: string): Promise<string> {
  const root = await realpath(store.inbox);
  const refused = new Refused('invalid-input', `“${relative}” does not lie in the media folder.`, [
    { path: 'paths', message: 'outside the media folder' },
  ]);
  if (relative.includes('\0')) throw refused;
  const real = await realpath(join(root, relative)).catch(() => undefined);
  if (!real)
    throw new Refused('not-found', `There is no “${relative}” in the media folder.`, [
      { path: 'paths', message: 'not found' },
    ]);
  if (real !== root && !real.startsWith(root + sep)) throw refused;
  return real;
}
