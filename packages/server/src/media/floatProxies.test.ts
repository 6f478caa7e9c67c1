// Frames of floats as browsers get them: the floats themselves, and pictures for the eye.
import { mkdtempSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { execFileSync } from 'node:child_process';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { floatsFromRgba } from '@mellow/core';
import { findMedia, type StoredMedia } from '../db/media.ts';
import { ensureFloatProxies } from '../jobs/addShots.ts';
import { exrFile } from '../render/sinks/exrFile.ts';
import { startHarness, until, type Harness } from '../testing/harness.ts';
import { upload } from '../testing/uploading.ts';
import { framesFolder } from './store.ts';

const [W, H] = [24, 16];
const work = mkdtempSync(join(tmpdir(), 'mellow-floats-'));
/** A ramp from deep shadow to eight times white, which half floats hold. */
const light = (i: number) => 2 ** (-10 + (13 * i) / (W * H - 1));
let h: Harness;
let projectId: string;
let stored: StoredMedia;

const areDone = () =>
  until('proxies', async () => {
    const { proxies } = await h.call('getProject', { projectId });
    return proxies[stored.media.id]?.state === 'done';
  });
const bytes = async (size: string, frame: number, pixels: string) => {
  const answer = await fetch(`${h.url}/api/media/${stored.media.id}/frames/${size}/${frame}.png`);
  expect(answer.status).toBe(200);
  writeFileSync(join(work, 'x.png'), Buffer.from(await answer.arrayBuffer()));
  return execFileSync('ffmpeg', ['-v', 'error', '-i', join(work, 'x.png'), '-f', 'rawvideo', '-pix_fmt', pixels, '-']);
};

beforeAll(async () => {
  h = await startHarness({ workers: true });
  const plane = Float32Array.from({ length: W * H }, (_, i) => light(i));
  const channels = [
    { name: 'R', plane },
    { name: 'G', plane: plane.map((v) => -v / 4) },
    { name: 'B', plane: plane.map((v) => v / 8) },
  ];
  const files = [0, 1].map((n) => join(work, `ramp_${n}.exr`));
  for (const file of files) writeFileSync(file, await exrFile({ width: W, height: H, samples: 'float', channels }));
  projectId = (await h.call('createProject', {}, { name: 'Light' })).id;
  const { body } = await upload(h, projectId, files);
  stored = (await findMedia(h.pool, body.mediaIds[0]!))!;
  await areDone();
});
afterAll(async () => {
  await h.close();
  rmSync(work, { recursive: true, force: true });
});

it('hold what lies past white, below black and between codes of 8 bits, to half a float', async () => {
  const { width, height, r, g, b } = floatsFromRgba(await bytes('half', 1, 'rgba'), W, 2 * H);
  expect([width, height]).toEqual([W, H]);
  r.forEach((v, i) => expect(Math.abs(v / light(i) - 1)).toBeLessThan(2 ** -10));
  g.forEach((v, i) => expect(Math.abs(v / (-light(i) / 4) - 1)).toBeLessThan(2 ** -10));
  b.forEach((v, i) => expect(Math.abs(v / (light(i) / 8) - 1)).toBeLessThan(2 ** -10));
});
it('are looked at as sRGB: 18 % grey is code 118', async () => {
  const codes = await bytes('proxy', 0, 'rgb24');
  const at = Array.from({ length: W * H }, (_, i) => i).find((i) => light(i) >= 0.18)!;
  expect(Math.abs(codes[3 * at]! - 118)).toBeLessThanOrEqual(2);
  expect(codes[3 * (W * H - 1)]).toBe(255);
});
it('are made anew at the start where there are only those of before', async () => {
  const folder = framesFolder(h.store, stored.media.id, 'half');
  rmSync(folder, { recursive: true });
  await ensureFloatProxies(h);
  await until('floats again', async () => readdirSync(join(folder, '..')).includes('half'));
  await areDone();
  expect(readdirSync(folder)).toHaveLength(2);
  // what is there is left alone
  const { rows: before } = await h.pool.query('select state from job where kind = $1', ['proxy']);
  await ensureFloatProxies(h);
  expect((await h.pool.query('select state from job where kind = $1', ['proxy'])).rows).toEqual(before);
});
