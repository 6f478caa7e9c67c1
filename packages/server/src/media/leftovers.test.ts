import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { existsSync, mkdirSync, mkdtempSync, rmSync, utimesSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join, relative } from 'node:path';
import { afterAll, expect, it } from 'vitest';
import { clearLeftovers, partOf, processName } from './leftovers.ts';
import { openStore } from './store.ts';

const root = mkdtempSync(join(tmpdir(), 'mellow-left-'));
afterAll(() => rmSync(root, { recursive: true, force: true }));
const HOUR = 3600;
/** A file that was written to so many hours ago, as were the folders round it. */
function written(path: string, hoursAgo: number): string {
  const file = join(root, path);
  mkdirSync(dirname(file), { recursive: true });
  writeFileSync(file, 'something');
  const at = Date.now() / 1000 - hoursAgo * HOUR;
  utimesSync(file, at, at);
  utimesSync(dirname(file), at, at);
  return path;
}
const cleared = async () => (await clearLeftovers(root)).map((path) => relative(root, path)).sort();

it('each process stages in a folder of its own', () => {
  const { staging } = openStore(root);
  expect(existsSync(staging)).toBe(true);
  expect(relative(root, staging)).toBe(join('staging', processName()));
});
it('what a process that was killed has staged goes at once; what those that live have stays, however old', async () => {
  const killed = spawn('sleep', ['1000']);
  const living = spawn('sleep', ['1000']);
  written(`staging/${processName(killed.pid)}/upload`, 0);
  written(`staging/${processName(living.pid)}/upload`, 500);
  written(`staging/${processName()}/upload`, 500);
  expect(await cleared()).toEqual([]);
  const dead = processName(killed.pid);
  killed.kill('SIGKILL');
  await once(killed, 'exit');
  expect(await cleared()).toEqual([`staging/${dead}`]);
  expect(existsSync(join(root, `staging/${processName(living.pid)}/upload`))).toBe(true);
  living.kill();
  await once(living, 'exit');
  expect(await cleared()).toHaveLength(1);
});
it('one that has the number of a dead one now is not taken for it', async () => {
  const again = processName().replace(/\.\d+\./, '.1.');
  written(`staging/${again}/upload`, 0);
  expect(await cleared()).toEqual([`staging/${again}`]);
});
it('what other machines have left goes when nobody has written to it for a day', async () => {
  written('staging/77.1234.elsewhere/upload', 23);
  const old = written('staging/78.1234.elsewhere/upload', 25);
  const bare = written('staging/an-old-upload', 25);
  expect(await cleared()).toEqual([dirname(old), bare]);
});
it('so do parts of files and folders; finished files stay', async () => {
  written('deliveries/a/take.mov', 500);
  written('deliveries/b.part/frames/000001.png', 2);
  written('frames/m/proxy.part/000001.png', 25);
  written('outbox/Spring/.1234.part', 25);
  written('store/abc/card.mkv', 500);
  expect(await cleared()).toEqual(['frames/m/proxy.part', 'outbox/Spring/.1234.part']);
  expect(existsSync(join(root, 'deliveries/b.part/frames/000001.png'))).toBe(true);
});
it('a part of a process that was killed goes at once; that of one that lives stays, however old', async () => {
  const killed = spawn('sleep', ['1000']);
  const dead = `deliveries/c.${processName(killed.pid)}.part`;
  written(`${dead}/a.mov`, 0);
  const own = relative(root, partOf(join(root, 'frames/n/proxy')));
  written(`${own}/000001.png`, 500);
  expect(await cleared()).toEqual([]);
  killed.kill('SIGKILL');
  await once(killed, 'exit');
  expect(await cleared()).toEqual([dead]);
  expect(existsSync(join(root, own))).toBe(true);
});
