import type { Dirent } from 'node:fs';
import { readdir, stat } from 'node:fs/promises';
import { basename, extname, join, posix } from 'node:path';
import type { FolderEntry } from '@mellow/contract';
import { Refused } from '../errors.ts';
import { groupFiles, IMAGE_EXTENSIONS, VIDEO_EXTENSIONS, type IncomingFile } from './sequence.ts';
import { inboxPath, type MediaStore } from './store.ts';

/** Numbers in names by their value; one collator for all, as twenty thousand names are compared by it. */
const byName = new Intl.Collator('en', { numeric: true }).compare;

/** Something that can be brought in or looked into: `path` is where it really lies. */
interface Found {
  name: string;
  kind: 'file' | 'folder';
  path: string;
}
/**
 * What lies in a folder of the inbox, and what links there lead to within the inbox. Pipes, sockets and devices are
 * passed over, since reading one may never end, and so are links that lead out or to nothing.
 */
async function contentsOf(store: MediaStore, folder: string): Promise<Found[]> {
  const real = await inboxPath(store, folder);
  const entries = await readdir(real, { withFileTypes: true });
  const found = await Promise.all(
    entries.map(async (entry): Promise<Found | undefined> => {
      const { name } = entry;
      const known = kindOf(entry);
      if (known) return { name, kind: known, path: join(real, name) };
      if (!entry.isSymbolicLink()) return undefined;
      const path = await inboxPath(store, posix.join(folder, name)).catch(() => undefined);
      const kind = path === undefined ? undefined : kindOf(await stat(path));
      return kind && { name, kind, path: path! };
    }),
  );
  return found.filter((each) => each !== undefined);
}
function kindOf(entry: Pick<Dirent, 'isFile' | 'isDirectory'>): Found['kind'] | undefined {
  if (entry.isDirectory()) return 'folder';
  return entry.isFile() ? 'file' : undefined;
}

/** Folders, videos and image sequences in a folder of the inbox; other files are passed over. */
export async function listFolder(store: MediaStore, path: string): Promise<FolderEntry[]> {
  const found = await contentsOf(store, path);
  const at = (name: string) => posix.join(path, name);
  const folders: FolderEntry[] = found
    .filter((each) => each.kind === 'folder')
    .map(({ name }) => ({ path: at(name), name, kind: 'folder', frames: null }));
  const files = found
    .filter(
      ({ kind, name }) =>
        kind === 'file' && [...VIDEO_EXTENSIONS, ...IMAGE_EXTENSIONS].includes(extname(name).slice(1).toLowerCase()),
    )
    .map(({ name }) => name);
  const media = [...groupBy(files, prefixOf).values()].flatMap((names): FolderEntry[] => {
    const { groups, refused } = groupFiles(names.map((name) => ({ path: name, name })));
    // a broken numbering hides only itself: its files are listed one by one
    if (refused.length > 0) return names.map((name) => ({ path: at(name), name, kind: 'sequence', frames: 1 }));
    return groups.map((g) => ({
      path: at(g.files[0]!.path),
      name: g.name,
      kind: g.kind,
      frames: g.kind === 'sequence' ? g.files.length : null,
    }));
  });
  return [...folders, ...media].sort((a, b) => byName(a.name, b.name));
}

/** The files that belong to a listed entry: the video, or all images of its sequence. Throws Refused for no file. */
export async function filesOfEntry(store: MediaStore, path: string): Promise<IncomingFile[]> {
  const real = await inboxPath(store, path);
  if (kindOf(await stat(real)) !== 'file')
    throw new Refused('invalid-input', `“${path}” is not a file.`, [{ path: 'paths', message: 'not a file' }]);
  const name = basename(path);
  if (!isImage(name)) return [{ path: real, name }];
  const siblings = await contentsOf(store, posix.dirname(path));
  return siblings.filter((each) => each.kind === 'file' && prefixOf(each.name) === prefixOf(name));
}

const isImage = (name: string): boolean => IMAGE_EXTENSIONS.includes(extname(name).slice(1).toLowerCase());
const prefixOf = (name: string): string => (isImage(name) ? name.replace(/\d+(\.[^.]+)$/, '#$1') : name);
function groupBy(names: string[], key: (name: string) => string): Map<string, string[]> {
  const groups = new Map<string, string[]>();
  for (const name of names) {
    const group = groups.get(key(name));
    if (group) group.push(name);
    else groups.set(key(name), [name]);
  }
  return groups;
}
