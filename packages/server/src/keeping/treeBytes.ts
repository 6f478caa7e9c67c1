import { readdir, stat } from 'node:fs/promises';
import { join } from 'node:path';

/** Bytes of all files in a folder and the folders in it; 0 where there is none. */
export async function treeBytes(folder: string): Promise<number> {
  let total = 0;
  for (const entry of await readdir(folder, { withFileTypes: true }).catch(() => [])) {
    const path = join(folder, entry.name);
    if (entry.isDirectory()) total += await treeBytes(path);
    // it may have gone meanwhile
    else total += (await stat(path).catch(() => undefined))?.size ?? 0;
  }
  return total;
}
