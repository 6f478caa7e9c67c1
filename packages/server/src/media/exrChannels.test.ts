// OpenEXR files of any channels, against ffmpeg's own, and mattes of several pieces brought in as plates.
import { execFileSync } from 'node:child_process';
import { mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { floatFromHalf, halfFromFloat, seededRandom } from '@mellow/core';
import { findMedia } from '../db/media.ts';
import { exrFile } from '../render/sinks/exrFile.ts';
import { startHarness, type Harness } from '../testing/harness.ts';
import { decodeFrames } from './decode.ts';
import { exrChannelNames, exrPlanes } from './exrChannels.ts';
import { words } from './words.ts';

const [W, H] = [36, 40];
const work = mkdtempSync(join(tmpdir(), 'mellow-channels-'));
let h: Harness;
beforeAll(async () => {
  h = await startHarness();
});
afterAll(async () => {
  await h.close();
  rmSync(work, { recursive: true, force: true });
});

describe('an OpenEXR that ffmpeg has written', () => {
  it.each(
    ['none', 'zip1', 'zip16'].flatMap((packing) => ['half', 'float'].map((format) => [packing, format] as const)),
  )('packed by %s, of %s, is read as ffmpeg reads it', (packing, format) => {
    const file = join(work, `${packing}-${format}.exr`);
    const made = `-v error -y -f lavfi -i testsrc2=size=${W}x${H} -frames:v 1 -vf format=gbrpf32le -c:v exr`;
    execFileSync('ffmpeg', [...words(`${made} -compression ${packing} -format ${format}`), file]);
    const read = execFileSync('ffmpeg', ['-v', 'error', '-i', file, ...words('-f rawvideo -pix_fmt gbrpf32le -')]);
    const theirs = new Float32Array(new Uint8Array(read).buffer);
    const { width, height, channels } = exrPlanes(readFileSync(file));
    expect([width, height, channels.map((c) => c.name)]).toEqual([W, H, ['B', 'G', 'R']]);
    const n = W * H;
    for (const [k, name] of ['G', 'B', 'R'].entries())
      expect(channels.find((c) => c.name === name)!.plane).toEqual(theirs.slice(k * n, (k + 1) * n));
  });
  it('packed otherwise is refused in words', () => {
    const file = join(work, 'rle.exr');
    const made = `-v error -y -f lavfi -i testsrc2=size=${W}x${H} -frames:v 1 -vf format=gbrpf32le -c:v exr`;
    execFileSync('ffmpeg', [...words(`${made} -compression rle`), file]);
    expect(() => exrPlanes(readFileSync(file))).toThrow(/not packed or packed by ZIP/);
  });
});

const ramp = (seed: number) => Float32Array.from({ length: W * H }, (_, i) => ((i * seed) % 97) / 96);
const coat = ramp(7);
const bag = ramp(13);
const both = (more: object[] = []) =>
  exrFile({
    width: W,
    height: H,
    channels: [{ name: 'Coat', plane: coat }, { name: 'Bag 2', plane: bag }, ...(more as [])],
  });
async function sent(...files: [name: string, bytes: Buffer][]) {
  const projectId = (await h.call('createProject', {}, { name: 'Plates' })).id;
  const form = new FormData();
  for (const [name, bytes] of files) form.append('files', new Blob([new Uint8Array(bytes)]), name);
  const url = `${h.url}/api/projects/${projectId}/plates`;
  const answer = await fetch(url, { method: 'POST', body: form, headers: { connection: 'close' } });
  const body = (await answer.json()) as { mediaIds: never[]; detail?: string };
  return { status: answer.status, body, document: await h.call('getProject', { projectId }) };
}

describe('mattes of several pieces in one file', () => {
  it('become a plate each, with every sample as it is', async () => {
    const bytes = await both();
    const { status, body } = await sent(['mattes.000012.exr', bytes], ['mattes.000013.exr', bytes]);
    expect([status, body.mediaIds.length]).toEqual([201, 2]);
    const plates = await Promise.all(body.mediaIds.map(async (id) => (await findMedia(h.pool, id))!));
    expect(plates.map((p) => [p.media.name, p.media.frames])).toEqual([
      ['mattes.Bag 2.[000012-000013].exr', 2],
      ['mattes.Coat.[000012-000013].exr', 2],
    ]);
    for (const [k, plane] of [bag, coat].entries())
      for await (const { r, g, b } of decodeFrames(h.store, plates[k]!))
        for (const read of [r, g, b]) expect([...read]).toEqual([...plane].map((v) => floatFromHalf(halfFromFloat(v))));
    expect(readdirSync(h.store.staging)).toEqual([]);
  });
  it('beside a picture stay in its file', async () => {
    const rgb = ['R', 'G', 'B'].map((name) => ({ name, plane: coat }));
    const { body } = await sent(['picture.0001.exr', await both(rgb)]);
    expect(body.mediaIds).toHaveLength(1);
  });
  it('that break off are refused by name, and nothing is left of them', async () => {
    const bytes = await both();
    const { status, body, document } = await sent(['mattes.0001.exr', bytes.subarray(0, bytes.length - 300)]);
    expect([status, document.plates]).toEqual([422, []]);
    expect(body.detail).toMatch(/“mattes.0001.exr” was not imported: it (breaks off|holds a block)/);
    expect(readdirSync(h.store.staging)).toEqual([]);
  });
});
it('of any broken bytes is read or refused, never anything else, and soon', async () => {
  const bytes = await both();
  const random = seededRandom(3);
  let refused = 0;
  for (let n = 0; n < 1000; n++) {
    const copy = Buffer.from(bytes);
    const until = n % 2 ? copy.length : 320;
    for (let k = 0; k <= n % 4; k++) copy[Math.floor(random() * until)] = Math.floor(random() * 256);
    const begun = performance.now();
    exrChannelNames(copy);
    try {
      exrPlanes(n % 5 === 0 ? copy.subarray(0, Math.floor(random() * copy.length)) : copy);
    } catch (error) {
      expect(error).toBeInstanceOf(RangeError);
      refused++;
    }
    expect(performance.now() - begun).toBeLessThan(2000);
  }
  expect(refused).toBeGreaterThan(200);
});
