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

async function imported(file: string): Promise<StoredMedia> {
  const projectId = (await h.call('createProject', {}, { name: 'Seen' })).id;
  const { status, body } = await upload(h, projectId, [join(work, file)]);
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
  for (const [n, { r, g, b }] of frames.entries()) {
    const rgba = await viewed(stored, 'proxy', n + 1);
    expect(rgba.length).toBe(4 * r.length);
    for (const [c, plane] of [r, g, b].entries()) expect(plane.every((code, i) => code === rgba[4 * i + c])).toBe(true);
  }
});
it('of floats, to the last bit that halves have', async () => {
  const [width, height] = [24, 16];
  const plane = Float32Array.from({ length: width * height }, (_, i) => 2 ** (-9 + i / 31) - 0.01);
  const channels = ['R', 'G', 'B'].map((name, c) => ({ name, plane: plane.map((v) => v * (1 - c / 3)) }));
  writeFileSync(join(work, 'float.exr'), await exrFile({ width, height, samples: 'float', channels }));
  const stored = await imported('float.exr');
  expect(await seenOf(stored)).toEqual([floatsFromRgba(await viewed(stored, 'half', 0), width, 2 * height)]);
});
