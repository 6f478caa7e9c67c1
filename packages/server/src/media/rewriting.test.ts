// What rewrites footage is another thread: what it says of files is said here as if it were this one.
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, expect, it } from 'vitest';
import { Refused } from '../errors.ts';
import { exrFile } from '../render/sinks/exrFile.ts';
import { tiffFile } from '../render/sinks/tiffFile.ts';
import { diskFaultOf } from './diskFaults.ts';
import { apart, asExr, closeRewriter } from './rewriting.ts';

const work = mkdtempSync(join(tmpdir(), 'mellow-rewriting-'));
afterAll(async () => {
  await closeRewriter();
  rmSync(work, { recursive: true });
});
const plane = Float32Array.of(0.5, 1, 2, 4);
async function written(name: string, bytes: Promise<Buffer>) {
  const file = { path: join(work, name), name };
  writeFileSync(file.path, await bytes);
  return file;
}
const errorOf = (failing: Promise<unknown>): Promise<unknown> =>
  failing.then(
    () => undefined,
    (error: unknown) => error,
  );

it('a disk that is full is one here too', async () => {
  const tiff = await written('light.tif', tiffFile({ width: 2, height: 2, r: plane, g: plane, b: plane }));
  const error = await errorOf(asExr(tiff, '/dev/full'));
  expect(diskFaultOf(error)).toMatchObject({ code: 'storage-full' });
});
it('a folder that is gone is no fault of the disk, and a file that is no TIFF is refused', async () => {
  const channels = ['Coat', 'Bag'].map((name) => ({ name, plane }));
  const mattes = await written('mattes.7.exr', exrFile({ width: 2, height: 2, channels }));
  const gone = await errorOf(apart(mattes, join(work, 'gone')));
  expect([gone, diskFaultOf(gone)]).toEqual([expect.objectContaining({ code: 'ENOENT', syscall: 'open' }), undefined]);
  expect((await apart(mattes, work))!.map((file) => file.name)).toEqual(['mattes.Bag.7.exr', 'mattes.Coat.7.exr']);
  const refused = await errorOf(asExr(mattes, join(work, 'x.exr')));
  expect(refused).toBeInstanceOf(Refused);
  expect((refused as Refused).message).toContain('it is no TIFF');
});
