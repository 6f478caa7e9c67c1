// Footage on disk that somebody has touched.
import { execFileSync } from 'node:child_process';
import { appendFileSync, mkdtempSync, readFileSync, rmSync, unlinkSync, utimesSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { startHarness, until, type Harness } from '../testing/harness.ts';
import { upload } from '../testing/uploading.ts';
import { mediaFolder } from './store.ts';
import { words } from './words.ts';

let h: Harness;
const work = mkdtempSync(join(tmpdir(), 'mellow-faults-'));
beforeAll(async () => void (h = await startHarness({ workers: true })));
afterAll(async () => {
  await h.close();
  rmSync(work, { recursive: true, force: true });
});
const ffmpeg = (text: string) => execFileSync('ffmpeg', ['-v', 'error', '-y', ...words(text)], { cwd: work });

/** A project with one video and one sequence, and the folders they are kept in. */
async function project(size: string) {
  ffmpeg(`-f lavfi -i testsrc2=size=${size}:rate=24 -frames:v 3 -c:v ffv1 clip.mkv`);
  ffmpeg(`-f lavfi -i testsrc=size=${size}:rate=24 -frames:v 3 -start_number 9 still_%d.png`);
  const projectId = (await h.call('createProject', {}, { name: size })).id;
  const names = ['clip.mkv', 'still_9.png', 'still_10.png', 'still_11.png'];
  const { status } = await upload(
    h,
    projectId,
    names.map((name) => join(work, name)),
  );
  expect(status).toBe(201);
  const document = await h.call('getProject', { projectId });
  const folderOf = (kind: string) => mediaFolder(h.store, document.media.find((m) => m.kind === kind)!.sha256);
  const faults = () => h.call('footageFaults', { projectId });
  return { projectId, document, folderOf, faults };
}

it('finds nothing wrong with footage as it came in, whatever its times are', async () => {
  const { folderOf, faults } = await project('64x36');
  expect(await faults()).toEqual([]);
  utimesSync(join(folderOf('video'), 'clip.mkv'), new Date(0), new Date(0));
  expect(await faults()).toEqual([]);
});

it('names the file that is missing and the footage that has changed, and what is put back is well again', async () => {
  const { document, folderOf, faults } = await project('66x36');
  const [clip, still] = [join(folderOf('video'), 'clip.mkv'), join(folderOf('sequence'), 'still_10.png')];
  const [clipBytes, stillBytes] = [readFileSync(clip), readFileSync(still)];
  appendFileSync(clip, 'x');
  unlinkSync(still);
  const of = (kind: string) => document.media.find((m) => m.kind === kind)!;
  expect((await faults()).toSorted((a, b) => a.fault.localeCompare(b.fault))).toEqual([
    { mediaId: of('video').id, name: 'clip.mkv', fault: 'changed', file: null },
    { mediaId: of('sequence').id, name: 'still_[9-11].png', fault: 'missing', file: 'still_10.png' },
  ]);
  writeFileSync(clip, clipBytes);
  writeFileSync(still, stillBytes);
  expect(await faults()).toEqual([]);
});

it('refuses a render of footage that has changed, saying why', async () => {
  const { projectId, document, folderOf } = await project('68x36');
  const media = document.media.find((m) => m.kind === 'video')!;
  const shot = document.shots.find((s) => s.value.mediaId === media.id)!.value;
  appendFileSync(join(folderOf('video'), 'clip.mkv'), 'x');
  const colourwayId = document.colourways[0]!.value.id;
  await h.call('render', { projectId }, { shotIds: [shot.id], colourwayIds: [colourwayId], preset: 'ffv1' });
  const [delivery] = await until('the render', async () => {
    const all = await h.call('listDeliveries', { projectId });
    return all[0]?.job.state === 'failed' && all;
  });
  expect(delivery!.job.message).toMatch(/“clip.mkv” is no longer what was brought in: its files have changed/);
});
