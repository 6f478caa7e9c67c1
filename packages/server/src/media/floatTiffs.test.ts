// TIFF files of floats come in with every value as it is.
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { MediaId } from '@mellow/contract';
import { seededRandom } from '@mellow/core';
import { findMedia } from '../db/media.ts';
import { Refused } from '../errors.ts';
import { tiffFile } from '../render/sinks/tiffFile.ts';
import { startHarness, type Harness } from '../testing/harness.ts';
import { decodeFrames } from './decode.ts';
import { readable } from './floatTiffs.ts';
import { importFiles } from './importMedia.ts';

/** Broken files; MELLOW_FUZZ_RUNS for a long run. */
const RUNS = Number(process.env.MELLOW_FUZZ_RUNS ?? 200);
const [W, H] = [8, 4];
const work = mkdtempSync(join(tmpdir(), 'mellow-tiff-'));
let h: Harness;
beforeAll(async () => {
  h = await startHarness();
});
afterAll(async () => {
  await h.close();
  rmSync(work, { recursive: true, force: true });
});

/** A ramp from below 0 to past 1, steeper with each channel. */
const ramp = (c: number) => Float32Array.from({ length: W * H }, (_, i) => ((i - 4) / 8) * (c + 1));
const own = () => tiffFile({ width: W, height: H, r: ramp(0), g: ramp(1), b: ramp(2) });
async function sent(...files: [name: string, bytes: Buffer][]) {
  for (const [name, bytes] of files) writeFileSync(join(work, name), bytes);
  const incoming = files.map(([name]) => ({ path: join(work, name), name }));
  return importFiles(h.pool, h.store, incoming, { take: 'leave' });
}
async function frames(id: MediaId) {
  const found = [];
  for await (const frame of decodeFrames(h.store, (await findMedia(h.pool, id))!)) found.push(frame);
  return found;
}

/** The ramp as OpenImageIO's oiiotool 2.4 writes it: LZW after the floating point predictor (TIFF Technical Note 3). */
const PREDICTED = `
SUkqAAgAAAAOAAABAwABAAAACAAAAAEBAwABAAAABAAAAAIBAwADAAAAtgAAAAMBAwABAAAABQAAAAYBAwABAAAAAgAAABEBBAABAAAA1gAAABIBAwAB
AAAAAQAAABUBAwABAAAAAwAAABYBAwABAAAABAAAABcBBAABAAAAkgAAABwBAwABAAAAAQAAADIBAgAUAAAAwgAAAD0BAwABAAAAAwAAAFMBAwADAAAA
vAAAAAAAAAAgACAAIAADAAMAAwAyMDI2OjExOjI4IDEwOjU5OjE4AIAv4E/wBBYM/3+QoUPoYAACAYMwiCgWAwGhFVggI0AEAQI4wI1HSAUCAwDhBpRK
ZVK5ZLYMP5hKYhBpnLGCQEAIBAMJ1PQxOgwEAhQaHQgoUGgfJdS6ZTB+QI9LJrLEAAChQgZWK0EAYCARXa/XgY6DQHKbZ7RBqhUZpaHAYFfYq9cwNXrq
CLveVQKG9ab9TICA`;
/** Its second channel alone, as half floats. */
const GREY = `
SUkqAAgAAAAOAAABAwABAAAACAAAAAEBAwABAAAABAAAAAIBAwABAAAAIAAAAAMBAwABAAAACAAAAAYBAwABAAAAAQAAABEBBAABAAAAygAAABIBAwAB
AAAAAQAAABUBAwABAAAAAQAAABYBAwABAAAABAAAABcBBAABAAAAOwAAABwBAwABAAAAAQAAADIBAgAUAAAAtgAAAD0BAwABAAAAAwAAAFMBAwABAAAA
AwAAAAAAAAAyMDI2OjExOjI4IDEwOjU5OjE4AHic28/A8N/JjpHB8cCBBiBwOMCACuyBmBGIHRSAQEBA4AKavAOMAZQT4ODgyMAhn8ABARpo8gA4/wsB`;

describe('TIFFs of floats', () => {
  it.each([
    ['of our own', own, ramp],
    ['predicted and packed by LZW', () => Buffer.from(PREDICTED, 'base64'), ramp],
    ['of one channel', () => Buffer.from(GREY, 'base64'), () => ramp(1)],
  ] as const)('%s', async (name, bytes, channel) => {
    const { media, refused } = await sent([`${name}.0007.tif`, await bytes()]);
    expect(refused).toEqual([]);
    expect(media[0]!.media).toMatchObject({ width: W, height: H, frames: 1, proposedEncoding: 'linear709' });
    expect(media[0]!.media.notes.join()).toContain('kept as OpenEXR of the same values');
    const [frame] = (await frames(media[0]!.media.id)) as [Awaited<ReturnType<typeof frames>>[number]];
    for (const [c, plane] of [frame.r, frame.g, frame.b].entries()) expect([...plane]).toEqual([...channel(c)]);
  });
  it('come in as numbered frames, and the same again are known', async () => {
    const files = [3, 4, 5].map((n) => `run_${n}.tiff`);
    const bytes = await own();
    const once = await sent(...files.map((name): [string, Buffer] => [name, bytes]));
    expect(once.media[0]!.media).toMatchObject({ name: 'run_[3-5].tiff', frames: 3, kind: 'sequence' });
    expect(await frames(once.media[0]!.media.id)).toHaveLength(3);
    const again = await sent(...files.map((name): [string, Buffer] => [name, bytes]));
    expect(again.media[0]!.media.id).toBe(once.media[0]!.media.id);
  });
  it('broken in any way are refused by name, and nothing of them is left', async () => {
    const bytes = await own();
    const random = seededRandom(5);
    const { rows: before } = await h.pool.query('select id from media');
    const broken = Array.from({ length: 60 }, (_, n): [string, Buffer] => {
      const copy = Buffer.from(bytes);
      // the directory lies behind the samples: its entries and what packs them
      for (let k = 0; k < 4; k++) copy[Math.floor(random() * copy.length)] = Math.floor(random() * 256);
      return [`broken${n}x.tif`, n % 3 === 0 ? copy.subarray(0, Math.floor(random() * copy.length)) : copy];
    });
    const { media, refused } = await sent(...broken);
    expect(media.length + refused.length).toBe(broken.length);
    expect(refused.length).toBeGreaterThan(20);
    for (const { name, reason } of refused) expect(reason).toContain(`“${name}”`);
    const { rows: after } = await h.pool.query('select id from media');
    expect(after.length).toBe(before.length + new Set(media.map((m) => m.media.id)).size);
  });
  it('of any broken bytes are read or refused, never anything else', async () => {
    const bytes = await own();
    const random = seededRandom(9);
    const folder = mkdtempSync(join(work, 'any-'));
    const name = 'any.tif';
    const group = { kind: 'sequence', name, input: name, startNumber: 0, files: [{ path: name, name }] } as const;
    let refused = 0;
    for (let n = 0; n < RUNS; n++) {
      const copy = Buffer.from(bytes);
      for (let k = 0; k <= n % 5; k++) copy[Math.floor(random() * copy.length)] = Math.floor(random() * 256);
      writeFileSync(join(folder, name), n % 4 === 0 ? copy.subarray(0, Math.floor(random() * copy.length)) : copy);
      await readable({ ...group, files: [...group.files] }, folder).catch((error: unknown) => {
        expect(error).toBeInstanceOf(Refused);
        refused++;
      });
    }
    expect(refused).toBeGreaterThan(RUNS / 10);
  });
  it('among which is one of another kind are refused', async () => {
    const whole = await own();
    const { refused } = await sent(['mix_1.tif', whole], ['mix_2.tif', Buffer.from('no picture')]);
    expect(refused[0]!.reason).toContain('“mix_2.tif” was not imported: it is no TIFF.');
  });
});
