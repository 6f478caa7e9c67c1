// What people put into the inbox, and what else may lie there: read without hanging, and never beyond it.
import { execFileSync } from 'node:child_process';
import { linkSync, mkdirSync, symlinkSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { startHarness, type Harness } from '../testing/harness.ts';
import { words } from './words.ts';

let h: Harness;
let projectId: string;
const inbox = (...path: string[]): string => join(h.store.inbox, ...path);
const ffmpeg = (...args: string[]) => execFileSync('ffmpeg', ['-v', 'error', '-y', ...args]);
const film = words('-f lavfi -i testsrc2=size=64x36:rate=24 -frames:v 3');
const listed = async (path: string) =>
  (
    (await (await fetch(`${h.url}/api/media-folder?path=${encodeURIComponent(path)}`)).json()) as { name: string }[]
  ).map((entry) => entry.name);
const bringIn = (...paths: string[]) => h.call('importFromFolder', { projectId }, { paths });
const refusal = async (path: string) => (await h.problem('importFromFolder', { projectId }, { paths: [path] })).detail;

beforeAll(async () => {
  h = await startHarness();
  projectId = (await h.call('createProject', {}, { name: 'Film' })).id;
});
afterAll(() => h.close());

it('a pipe, a folder that is called like a film, and a link to nothing: none of them is a film', async () => {
  mkdirSync(inbox('odd'));
  execFileSync('mkfifo', [inbox('odd', 'pipe.mp4'), inbox('odd', 'x_002.png')]);
  mkdirSync(inbox('odd', 'folder.mp4'));
  symlinkSync('nowhere.mp4', inbox('odd', 'gone.mp4'));
  symlinkSync('/dev/zero', inbox('odd', 'zero.mp4'));
  ffmpeg(...film.slice(0, -2), ...words('-frames:v 1 -update 1'), inbox('odd', 'x_001.png'));
  expect(await listed('odd')).toEqual(['folder.mp4', 'x_[001-001].png']);
  expect(await refusal('odd/pipe.mp4')).toBe('“odd/pipe.mp4” is not a file.');
  expect(await refusal('odd/folder.mp4')).toBe('“odd/folder.mp4” is not a file.');
  expect(await refusal('odd/gone.mp4')).toMatch(/^There is no/);
  expect(await refusal('odd/zero.mp4')).toMatch(/does not lie in the media folder/);
  // the pipe would be the second frame of it
  await bringIn('odd/x_001.png');
  expect((await h.call('getProject', { projectId })).media.map((m) => m.frames)).toEqual([1]);
});
it('one file under two names, by a second name or a link, is one footage in two shots', async () => {
  mkdirSync(inbox('two'));
  ffmpeg(...film, ...words('-c:v ffv1'), inbox('two', 'a.mkv'));
  linkSync(inbox('two', 'a.mkv'), inbox('two', 'b.mkv'));
  symlinkSync('a.mkv', inbox('two', 'c.mkv'));
  expect(await listed('two')).toEqual(['a.mkv', 'b.mkv', 'c.mkv']);
  const before = await h.call('getProject', { projectId });
  await bringIn('two/a.mkv', 'two/b.mkv', 'two/c.mkv');
  const { media, shots } = await h.call('getProject', { projectId });
  expect(media.length - before.media.length).toBe(1);
  expect(shots.slice(before.shots.length).map((s) => s.value.name)).toEqual(['a', 'b', 'c']);
});
it('frames that are links to one another, as a held frame is, are a sequence', async () => {
  mkdirSync(inbox('held'));
  ffmpeg(...film.slice(0, -2), ...words('-frames:v 1 -update 1'), inbox('held', 'h_001.png'));
  symlinkSync('h_001.png', inbox('held', 'h_002.png'));
  symlinkSync(inbox('held', 'h_001.png'), inbox('held', 'h_003.png'));
  expect(await listed('held')).toEqual(['h_[001-003].png']);
  await bringIn('held/h_001.png');
  expect((await h.call('getProject', { projectId })).media.at(-1)).toMatchObject({ frames: 3 });
});
it('a link to a folder of the inbox is a folder; one that leads out is not there', async () => {
  mkdirSync(inbox('links'));
  symlinkSync('../two', inbox('links', 'same'));
  symlinkSync('/etc', inbox('links', 'out'));
  symlinkSync('.', inbox('links', 'itself'));
  expect(await listed('links')).toEqual(['itself', 'same']);
  expect(await listed('links/same')).toEqual(['a.mkv', 'b.mkv', 'c.mkv']);
});
it('names of any script, and as long as a file system takes them', async () => {
  mkdirSync(inbox('names'));
  const stems = ['夜のシーン', 'Ω مشهد', 'ä'.repeat(125), 'x y; $(rm)', `%d's "take"`];
  const names = stems.map((stem) => `${stem}.mkv`);
  expect(Buffer.byteLength(names[2]!)).toBe(254);
  // each another film
  for (const [i, name] of names.entries())
    ffmpeg(
      ...words('-f lavfi -i'),
      `color=gray:size=${64 + 2 * i}x36`,
      ...words('-frames:v 2 -c:v ffv1 -f matroska'),
      'file:' + inbox('names', name),
    );
  writeFileSync(inbox('names', 'x'.repeat(255)), 'no film');
  expect(new Set(await listed('names'))).toEqual(new Set(names));
  await bringIn(...names.map((name) => `names/${name}`));
  const { media } = await h.call('getProject', { projectId });
  expect(media.map((m) => m.name)).toEqual(expect.arrayContaining(names));
});
