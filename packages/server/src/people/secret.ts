import { randomBytes } from 'node:crypto';
import { readFileSync, writeFileSync } from 'node:fs';
import { dirname } from 'node:path';
import { makeFolder } from '../folders.ts';

/** What signs the cookies: made once, readable by the server's user only. A new one signs everybody out. */
export function keptSecret(path: string): string {
  makeFolder(dirname(path));
  try {
    // of two servers that start at once the second finds the first one's
    writeFileSync(path, randomBytes(32).toString('hex'), { mode: 0o600, flag: 'wx' });
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code !== 'EEXIST') throw error;
  }
  const secret = readFileSync(path, 'utf8').trim();
  if (secret.length < 64) throw new Error(`${path} should hold 64 hexadecimal digits. Remove it to have it made anew.`);
  return secret;
}
