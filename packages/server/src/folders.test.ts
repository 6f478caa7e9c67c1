import { mkdtempSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, expect, it } from 'vitest';
import { makeFolder } from './folders.ts';

const work = mkdtempSync(join(tmpdir(), 'mellow-folders-'));
afterAll(() => rmSync(work, { recursive: true, force: true }));

it('makes a folder and those it lies in, and leaves what is there', () => {
  const path = join(work, 'a/b/c');
  makeFolder(path, 0o700);
  expect(statSync(path).mode & 0o777).toBe(0o700);
  writeFileSync(join(path, 'kept'), '');
  makeFolder(path);
  expect(statSync(join(path, 'kept')).isFile()).toBe(true);
});
it('says what keeps it from being made', () => {
  writeFileSync(join(work, 'a file'), '');
  expect(() => makeFolder(join(work, 'a file/within'))).toThrow('ENOTDIR');
});
it.runIf(process.platform === 'linux')('and says so of a folder that takes none', () => {
  expect(() => makeFolder('/proc/nothing/of/this')).toThrow('ENOENT');
});
