import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, expect, it } from 'vitest';
import type { Media } from '@mellow/contract';
import { FfmpegFailed } from '../../media/ffmpeg.ts';
import { childrenWith } from '../../testing/children.ts';
import { until } from '../../testing/harness.ts';
import { ffv1 } from '../presets/ffv1.ts';
import { FfmpegPipe } from './ffmpegPipe.ts';

const work = mkdtempSync(join(tmpdir(), 'mellow-pipe-'));
afterAll(() => rmSync(work, { recursive: true, force: true }));

it('an ffmpeg that ends while it is written to is told by its own words', async () => {
  const raw = '-f rawvideo -pix_fmt gbrp16le -video_size 64x64 -framerate 24 -i pipe:0 -c:v nonsense -f null -';
  const pipe = await FfmpegPipe.open(raw.split(' '));
  // far more than a pipe holds
  const write = async () => {
    for (let i = 0; i < 100; i++) await pipe.write([new Uint8Array(1 << 20)]);
  };
  await expect(write()).rejects.toThrow(FfmpegFailed);
  await expect(write()).rejects.toThrow(/nonsense/);
});
it('an ffmpeg that takes nothing, or does not end, hangs, and is ended', async () => {
  const endless = '-re -f lavfi -i color=size=16x16 -f null -'.split(' ');
  const open = () => FfmpegPipe.open(endless, undefined, 300);
  // more than a pipe holds
  await expect((await open()).write([new Uint8Array(1 << 20)])).rejects.toThrow(/nothing was heard/);
  await expect((await open()).end()).rejects.toThrow(/nothing was heard/);
  await until('their end', async () => childrenWith('color=size=16x16').length === 0);
});
it.each([
  [64, 48],
  [4096, 2160],
  [5120, 2880],
  [7680, 4320],
  [8192, 4320],
])('FFV1 takes %d × %d', async (width, height) => {
  const plain = { fps: { num: 24, den: 1 }, fields: 'progressive', pixelAspect: { num: 1, den: 1 }, timecode: null };
  const media = { width, height, ...plain } as unknown as Media;
  const file = join(work, `${width}.mkv`);
  const pipe = await FfmpegPipe.open(ffv1.args({ ...media, firstFrame: 0, sound: [] }, 'rec709', file));
  const plane = new Uint8Array(width * height * 2);
  await pipe.write([plane, plane, plane]);
  await pipe.end();
  const probe = ['-v', 'error', '-show_entries', 'stream=width,height', '-of', 'csv=p=0', file];
  expect(execFileSync('ffprobe', probe, { encoding: 'utf8' }).trim()).toBe(`${width},${height}`);
});
