// Footage that lies on its side or has pixels that are not square. What it should be is worked out from the same
// pictures decoded as they are, which are turned here pixel by pixel.
import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { CodePicture } from '@mellow/core';
import type { StoredMedia } from '../db/media.ts';
import { renderShot } from '../render/renderShot.ts';
import { RenderPool } from '../render/renderPool.ts';
import { exrFile } from '../render/sinks/exrFile.ts';
import { startHarness, type Harness } from '../testing/harness.ts';
import { decodeFrames } from './decode.ts';
import { importFiles } from './importMedia.ts';
import { words } from './words.ts';

const [W, H] = [48, 32];
const work = mkdtempSync(join(tmpdir(), 'mellow-turned-'));
let h: Harness;
let pool: RenderPool;
beforeAll(async () => {
  h = await startHarness();
  pool = new RenderPool(1);
});
afterAll(async () => {
  await pool.close();
  await h.close();
  rmSync(work, { recursive: true, force: true });
});

/** A film as it is stored, and the same marked as lying otherwise: ISO/IEC 14496-12, 8.3.2, the matrix of its track. */
const MATRICES = { 90: [0, 1, -1, 0, H, 0], 180: [-1, 0, 0, -1, W, H], 270: [0, -1, 1, 0, 0, W] } as const;
function film(name: string, pixels: string, more = ''): string {
  const file = join(work, name);
  const args = `-v error -y -f lavfi -i testsrc2=size=${W}x${H}:rate=24 -frames:v 2${more}`;
  execFileSync('ffmpeg', [...words(`${args} -c:v libx264 -qp 0 -pix_fmt ${pixels} -colorspace bt709`), file]);
  return file;
}
function turned(file: string, deg: keyof typeof MATRICES | 45): string {
  const bytes = readFileSync(file);
  const at = bytes.indexOf('tkhd') + 4 + 40;
  const [a, b, c, d, x, y] = deg === 45 ? [0.7071, 0.7071, -0.7071, 0.7071, 0, 0] : MATRICES[deg];
  const fixed = [a, b, 0, c, d, 0, x, y].map((v) => Math.round(v * 65536));
  fixed.forEach((v, k) => bytes.writeInt32BE(v, at + 4 * k));
  const path = file.replace('.mp4', `-${deg}.mp4`);
  writeFileSync(path, bytes);
  return path;
}
async function imported(file: string): Promise<StoredMedia> {
  const { media, refused } = await importFiles(h.pool, h.store, [{ path: file, name: file }], { take: 'leave' });
  if (!media[0]) throw new Error(refused[0]!.reason);
  return media[0];
}
async function first(stored: StoredMedia): Promise<CodePicture> {
  for await (const frame of decodeFrames(h.store, stored)) return frame;
  throw new Error('no frame');
}
/** Where a pixel of the upright picture lies in the stored one. */
const FROM = {
  90: (x: number, y: number) => [y, H - 1 - x],
  180: (x: number, y: number) => [W - 1 - x, H - 1 - y],
  270: (x: number, y: number) => [W - 1 - y, x],
} as const;
function furthest(
  upright: CodePicture,
  stored: CodePicture,
  from: (x: number, y: number) => readonly number[],
): number {
  let most = 0;
  for (let y = 0; y < upright.height; y++)
    for (let x = 0; x < upright.width; x++) {
      const [u = 0, v = 0] = from(x, y);
      for (const c of ['r', 'g', 'b'] as const)
        most = Math.max(most, Math.abs(upright[c][y * upright.width + x]! - stored[c][v * W + u]!));
    }
  return most;
}

describe.each([90, 180, 270] as const)('footage that is turned by %d°', (deg) => {
  it('stands upright, with every code as it was', async () => {
    const lying = film('codes.mp4', 'yuv444p');
    const [whole, upright] = [await imported(lying), await imported(turned(lying, deg))];
    const size = deg === 180 ? [W, H] : [H, W];
    expect([upright.media.width, upright.media.height, upright.media.turnedDeg]).toEqual([...size, deg]);
    expect(upright.media.notes.join()).toContain(`turned upright by ${deg}°`);
    expect(furthest(await first(upright), await first(whole), FROM[deg])).toBe(0);
  });
});
// half a turn puts chroma between its columns on the other side, which the converter has no word for
it.each([90, 270] as const)('footage that is turned by %d° has its chroma where it lies', async (deg) => {
  const lying = film('shared.mp4', 'yuv420p');
  const [whole, upright] = [await imported(lying), await imported(turned(lying, deg))];
  expect(furthest(await first(upright), await first(whole), FROM[deg])).toBeLessThanOrEqual(2);
});
it('what is turned by no quarter is refused by name', async () => {
  await expect(imported(turned(film('codes.mp4', 'yuv444p'), 45))).rejects.toThrow(
    /turned by 45°, which is no quarter/,
  );
});

const aspectOf = (file: string) =>
  execFileSync('ffprobe', [...words('-v error -show_entries stream=sample_aspect_ratio -of csv=p=0'), file], {
    encoding: 'utf8',
  }).trim();
describe('pixels that are not square', () => {
  it('are said, and turned with the picture', async () => {
    const wide = film('wide.mp4', 'yuv444p', ' -vf setsar=16/11');
    expect((await imported(wide)).media.pixelAspect).toEqual({ num: 16, den: 11 });
    expect((await imported(turned(wide, 90))).media.pixelAspect).toEqual({ num: 11, den: 16 });
    expect((await imported(film('square.mp4', 'yuv444p'))).media.pixelAspect).toEqual({ num: 1, den: 1 });
  });
  it.each([
    ['ffv1', 'out.mkv'],
    ['vc3', 'out.mov'],
    ['h264', 'out.mp4'],
    ['png16', 'out.zip'],
    ['exrHalf', 'out.zip'],
  ] as const)('%s says so', async (preset, fileName) => {
    const size = 'scale=256:128,setsar=2/1';
    const media = await imported(film('large.mp4', 'yuv444p', ` -vf ${size}`));
    const folder = join(work, preset);
    const shot = { media, encoding: 'rec709', pieces: ['A'], span: { from: 0, to: 1 }, motions: new Map(), preset };
    const wanted = { sightings: [], folder, fileName, onFrame: () => undefined, signal: new AbortController().signal };
    await Promise.all(renderShot(h.pool, h.store, pool, shot as never, [wanted]));
    const isSequence = fileName.endsWith('.zip');
    const still = preset === 'png16' ? 'out.000000.png' : 'out.000000.exr';
    const file = join(folder, isSequence ? `frames/${still}` : fileName);
    expect(aspectOf(file)).toBe('2:1');
  });
  it('an OpenEXR of our own says so', async () => {
    const channels = ['R', 'G', 'B'].map((name) => ({ name, plane: new Float32Array(64) }));
    writeFileSync(join(work, 'own.exr'), await exrFile({ width: 8, height: 8, pixelAspect: 2, channels }));
    expect(aspectOf(join(work, 'own.exr'))).toBe('2:1');
  });
});
