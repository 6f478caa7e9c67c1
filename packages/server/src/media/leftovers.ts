// What processes that died have left in the media folder, and how it is told from what others work with: machines share
// that folder.
import { readFileSync } from 'node:fs';
import { readdir, rm, stat } from 'node:fs/promises';
import { hostname } from 'node:os';
import { join } from 'node:path';

/** What another machine, or nobody known, has left is removed once nothing in it has changed for so long. */
const ABANDONED_MS = 24 * 3600 * 1000;
/** Where files are written under another name first. */
const PARTS_IN = ['store', 'frames', 'deliveries', 'cubes', 'carrying', 'outbox'];

/** When a process of this machine was started, in ticks since the machine was; '' where that cannot be told. */
function startOf(pid: number): string {
  try {
    const text = readFileSync(`/proc/${pid}/stat`, 'utf8');
    return text.slice(text.lastIndexOf(')') + 2).split(' ')[19] ?? '';
  } catch {
    return '';
  }
}
/** A name that no other process has, of any machine, nor one that gets the same number later. */
export const processName = (pid = process.pid): string => `${pid}.${startOf(pid)}.${hostname()}`;

/** What a file or folder is called while this process writes it: another that makes the same has its own. */
export const partOf = (path: string): string => `${path}.${processName()}.part`;
/** The process whose part a file is; undefined where its name does not say so. */
const writerOf = (part: string): string | undefined => /\.(\d+\.\d*\.[^/]+)\.part$/.exec(part)?.[1];

/** Is the process of this name dead? Undefined where it cannot be known: of other machines', and without a start. */
function isDead(name: string): boolean | undefined {
  const [, pid, start, host] = /^(\d+)\.(\d*)\.(.+)$/.exec(name) ?? [];
  if (host !== hostname() || !start) return undefined;
  return startOf(Number(pid)) !== start;
}

/**
 * Removes what dead processes have left: their folders in `staging`, and their files and folders called `.part`. Of
 * other machines' it goes once nobody has written to it for a day. Gives the paths.
 */
export async function clearLeftovers(root: string, now = Date.now()): Promise<string[]> {
  const left: string[] = [];
  const staging = join(root, 'staging');
  for (const name of await namesIn(staging)) {
    const path = join(staging, name);
    if (isDead(name) ?? (await isAbandoned(path, now))) left.push(path);
  }
  for (const folder of PARTS_IN)
    for await (const path of partsIn(join(root, folder))) {
      const writer = writerOf(path);
      if ((writer && isDead(writer)) ?? (await isAbandoned(path, now))) left.push(path);
    }
  for (const path of left) await rm(path, { recursive: true, force: true });
  return left;
}

/** Names in a folder; none where there is no such folder any more. */
const namesIn = (folder: string): Promise<string[]> => readdir(folder).catch(() => []);

async function* partsIn(folder: string): AsyncGenerator<string> {
  for (const entry of await readdir(folder, { withFileTypes: true }).catch(() => [])) {
    const path = join(folder, entry.name);
    if (entry.name.endsWith('.part')) yield path;
    else if (entry.isDirectory()) yield* partsIn(path);
  }
}

/** Has nothing of it changed for a day? */
async function isAbandoned(path: string, now: number): Promise<boolean> {
  const found = await stat(path).catch(() => undefined);
  if (!found) return false;
  if (now - found.mtimeMs < ABANDONED_MS) return false;
  if (found.isDirectory())
    for (const name of await namesIn(path)) if (!(await isAbandoned(join(path, name), now))) return false;
  return true;
}
