import { existsSync, mkdirSync } from 'node:fs';
import { dirname } from 'node:path';

/**
 * Makes a folder that somebody chose, and those it lies in, where they are not there. Throws what keeps it from being
 * made. Node's own way (`recursive`) tries for ever where a folder that is there says that it is not, as /proc does.
 */
export function makeFolder(path: string, mode = 0o777): void {
  if (existsSync(path)) return;
  makeFolder(dirname(path), mode);
  try {
    mkdirSync(path, { mode });
  } catch (error) {
    // another process was sooner
    if ((error as NodeJS.ErrnoException).code !== 'EEXIST') throw error;
  }
}
