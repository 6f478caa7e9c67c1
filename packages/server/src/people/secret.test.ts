import { mkdtempSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, beforeEach, expect, it } from 'vitest';
import { keptSecret } from './secret.ts';

let folder: string;
beforeEach(() => void (folder = mkdtempSync(join(tmpdir(), 'mellow-'))));
afterEach(() => rmSync(folder, { recursive: true }));

it('is made once, for the server’s user only', () => {
  const path = join(folder, 'deep', 'secret');
  const first = keptSecret(path);
  expect(first).toMatch(/^[0-9a-f]{64}$/);
  expect(keptSecret(path)).toBe(first);
  expect(statSync(path).mode & 0o777).toBe(0o600);
});
it('where no folder can be made, says so', () => {
  expect(() => keptSecret('/proc/nothing/secret')).toThrow('ENOENT');
});
it('is never one that was cut short', () => {
  const path = join(folder, 'secret');
  writeFileSync(path, 'short');
  expect(() => keptSecret(path)).toThrow(path);
});
