// The frames that strokes are decided on in a render are those of the viewer, bit for bit.
import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { PROXY_WIDTH } from '@mellow/contract';
import { floatsFromRgba, type CodePicture } from '@mellow/core';
import { findMedia, type StoredMedia } from '../db/media.ts';
import { exrFile } from '../render/sinks/exrFile.ts';
import { startHarness, until, type Harness } from '../testing/harness.ts';
import { upload } from '../testing/uploading.ts';
import { decodeSeen } from './decode.ts';
import { words } from './words.ts';

const work = mkdtempSync(join(tmpdir(), 'mellow-seen-'));
let h: Harness;
beforeAll(async () => void (h = await startHarness({ workers: true })));
afterAll(async () => {
  await h.close();
  rmSync(work, { recursive: true, force: true });
});

async function imported(...files: string[]): Promise<StoredMedia> {
  const projectId = (await h.call('createProject', {}, { name: 'Seen' })).id;
  const paths = files.map((file) => join(work, file));
  const { status, body } = await upload(h, projectId, paths);
  expect(status, body.detail).toBe(201);
  const id = body.mediaIds[0]!;
  await until('proxies', async () => (await h.call('getProject', { projectId })).proxies[id]?.state === 'done');
  return (await findMedia(h.pool, id))!;
}
/** A frame as a browser gets it: bytes of R, G, B and A in turn. */
async function viewed({ media }: StoredMedia, size: 'proxy' | 'half', frame: number): Promise<Buffer> {
  const answer = await fetch(`${h.url}/api/media/${media.id}/frames/${size}/${frame}.png`);
  expect(answer.status).toBe(200);
  const file = join(work, 'frame.png');
  writeFileSync(file, Buffer.from(await answer.arrayBuffer()));
  return execFileSync('ffmpeg', [...words('-v error -i'), file, ...words('-f rawvideo -pix_fmt rgba -')], {
    maxBuffer: 1e8,
  });
}
async function seenOf(stored: StoredMedia, span?: { from: number; to: number }): Promise<CodePicture[]> {
  const frames: CodePicture[] = [];
  for await (const frame of decodeSeen(h.store, stored, { span })) frames.push(frame);
  return frames;
}

const NOISE = 'noise=alls=50:allf=t:all_seed=3';
it.each([
  ['larger.mkv', `testsrc2=size=1284x724,${NOISE},format=yuv420p`, PROXY_WIDTH],
  ['smaller.mkv', `testsrc2=size=322x182,${NOISE},format=yuv422p10le`, 322],
  ['rgb.mkv', `testsrc2=size=1100x620,${NOISE},format=gbrp12le`, PROXY_WIDTH],
])('of %s', async (file, source, width) => {
  const made = [...words('-v error -y -f lavfi -i'), source, ...words('-frames:v 3 -c:v ffv1'), join(work, file)];
  execFileSync('ffmpeg', made);
  const stored = await imported(file);
  const frames = await seenOf(stored, { from: 1, to: 2 });
  expect(frames.map((f) => f.width)).toEqual([width, width]);
  for (const [n, frame] of frames.entries()) await expectViewed(stored, n + 1, frame);
});
async function expectViewed(stored: StoredMedia, n: number, { r, g, b }: CodePicture): Promise<void> {
  const rgba = await viewed(stored, 'proxy', n);
  expect(rgba.length).toBe(4 * r.length);
  for (const [c, plane] of [r, g, b].entries())
    expect(
      plane.every((code, i) => code === rgba[4 * i + c]),
      `frame ${n}`,
    ).toBe(true);
}
it.each([
  ['frames between frames', 'between.mp4', '-bf 2 -pix_fmt yuv420p'],
  ['two fields', 'fields.mp4', '-vf interlace -flags +ildct+ilme -x264opts tff=1 -pix_fmt yuv420p'],
])('of a film of %s that is written in several runs', async (_, file, how) => {
  const source = words(`-v error -y -f lavfi -i testsrc2=size=96x64:rate=25,${NOISE} -frames:v 500`);
  execFileSync('ffmpeg', [...source, ...words(how), ...words('-c:v libx264 -g 100'), join(work, file)]);
  const stored = await imported(file);
  const frames = await seenOf(stored);
  expect(frames).toHaveLength(stored.media.frames);
  const last = stored.media.frames - 1;
  for (const n of [0, 238, 239, 240, 241, 242, last]) await expectViewed(stored, n, frames[n]!);
});
it('of floats, to the last bit that halves have, of as many as are written in several runs', async () => {
  const [width, height, count] = [24, 16, 10];
  const files = Array.from({ length: count }, (_, n) => `float_${n}.exr`);
  for (const [n, file] of files.entries()) {
    const plane = Float32Array.from({ length: width * height }, (_, i) => 2 ** (-9 + i / 31 + n / 4) - 0.01);
    const channels = ['R', 'G', 'B'].map((name, c) => ({ name, plane: plane.map((v) => v * (1 - c / 3)) }));
    writeFileSync(join(work, file), await exrFile({ width, height, samples: 'float', channels }));
  }
  const stored = await imported(...files);
  const frames = await seenOf(stored);
  expect(frames).toHaveLength(count);
  for (const [n, frame] of frames.entries())
    expect(frame).toEqual(floatsFromRgba(await viewed(stored, 'half', n), width, 2 * height));
});
