import { readdir } from 'node:fs/promises';
import { extname, posix } from 'node:path';
import type { FolderEntry } from '@mellow/contract';
import { groupFiles, IMAGE_EXTENSIONS, VIDEO_EXTENSIONS } from './sequence.ts';
import { inboxPath, type MediaStore } from './store.ts';

/** Numbers in names by their value; one collator for all, as twenty thousand names are compared by it. */
const byName = new Intl.Collator('en', { numeric: true }).compare;

/** Folders, videos and image sequences in a folder of the inbox; other files are passed over. */
export async function listFolder(store: MediaStore, path: string): Promise<FolderEntry[]> {
  const entries = await readdir(await inboxPath(store, path), { withFileTypes: true });
  const at = (name: string) => posix.join(path, name);
  const folders: FolderEntry[] = entries
    .filter((e) => e.isDirectory())
    .map((e) => ({ path: at(e.name), name: e.name, kind: 'folder', frames: null }));
  const files = entries
    .filter(
      (e) => e.isFile() && [...VIDEO_EXTENSIONS, ...IMAGE_EXTENSIONS].includes(extname(e.name).slice(1).toLowerCase()),
    )
    .map((e) => e.name);
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

/** The files that belong to a listed entry: the video, or all images of its sequence. */
export async function filesOfEntry(store: MediaStore, path: string): Promise<{ folder: string; files: string[] }> {
  await inboxPath(store, path);
  const folder = posix.dirname(path) === '.' ? '' : posix.dirname(path);
  const real = await inboxPath(store, folder);
  const name = posix.basename(path);
  if (!IMAGE_EXTENSIONS.includes(extname(name).slice(1).toLowerCase())) return { folder: real, files: [name] };
  const siblings = (await readdir(real, { withFileTypes: true }))
    .filter((e) => e.isFile() && prefixOf(e.name) === prefixOf(name))
    .map((e) => e.name);
  return { folder: real, files: siblings };
}

const prefixOf = (name: string): string =>
  IMAGE_EXTENSIONS.includes(extname(name).slice(1).toLowerCase()) ? name.replace(/\d+(\.[^.]+)$/, '#$1') : name;
function groupBy(names: string[], key: (name: string) => string): Map<string, string[]> {
  const groups = new Map<string, string[]>();
  for (const name of names) {
    const group = groups.get(key(name));
    if (group) group.push(name);
    else groups.set(key(name), [name]);
  }
  return groups;
}
