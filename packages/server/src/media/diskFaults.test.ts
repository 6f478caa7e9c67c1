import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, it } from 'vitest';
import { diskFaultOf } from './diskFaults.ts';

const failing = (code: string, syscall: string) => Object.assign(new Error(`${code}: ${syscall}`), { code, syscall });

it('says what the disk’s matter is, by the names of errno(3)', () => {
  expect(diskFaultOf(failing('ENOSPC', 'write'))).toMatchObject({ code: 'storage-full' });
  expect(diskFaultOf(failing('EDQUOT', 'write'))).toMatchObject({ code: 'storage-full' });
  expect(diskFaultOf(failing('EROFS', 'open'))?.detail).toContain('read-only');
  expect(diskFaultOf(failing('EIO', 'read'))?.detail).toContain('fails');
  expect(diskFaultOf(failing('ENOENT', 'mkdir'))?.detail).toContain('cannot be written to');
});
it('says nothing of what is no disk’s, nor of a file that is not there', async () => {
  const folder = mkdtempSync(join(tmpdir(), 'mellow-fault-'));
  writeFileSync(join(folder, 'file'), '');
  const thrown = (act: () => unknown): unknown => {
    try {
      return act();
    } catch (error) {
      return error;
    }
  };
  // real ones: below a file there is no folder, and a port below 0 is none
  expect(diskFaultOf(thrown(() => mkdirSync(join(folder, 'file', 'inner'), { recursive: true })))).toBeUndefined();
  rmSync(folder, { recursive: true });
  expect(diskFaultOf(thrown(() => writeFileSync(join(folder, 'gone', 'x'), '')))).toBeUndefined();
  expect(diskFaultOf(thrown(() => createServer().listen(-1)))).toBeUndefined();
  for (const syscall of ['listen', 'connect', 'spawn setpriv'])
    expect(diskFaultOf(failing('EACCES', syscall)), syscall).toBeUndefined();
  expect(diskFaultOf('EROFS')).toBeUndefined();
});
