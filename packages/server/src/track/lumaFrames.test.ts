import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, expect, it } from 'vitest';
import type { StoredMedia } from '../db/media.ts';
import { decodeLuma } from '../media/decode.ts';
import { importFiles } from '../media/importMedia.ts';
import { startHarness, type Harness } from '../testing/harness.ts';
import { closeKeptLumaFrames, decodeAhead, giveBackLumaFrames, LumaFrames, takeLumaFrames } from './lumaFrames.ts';
import { words } from '../media/words.ts';

const COUNT = 70;
const work = mkdtempSync(join(tmpdir(), 'mellow-luma-'));
let h: Harness;
let media: StoredMedia;
let all: Buffer[];
const bytes = (luma: Uint16Array) => Buffer.from(luma.buffer, luma.byteOffset, luma.byteLength);
beforeAll(async () => {
  h = await startHarness({ workers: false });
  execFileSync(
    'ffmpeg',
    [
      ...words('-v error -y -f lavfi -i testsrc2=size=160x90:rate=25 -frames:v'),
      String(COUNT),
      ...words('-c:v libx264 -crf 4 -g 10 -pix_fmt yuv420p count.mp4'),
    ],
    { cwd: work },
  );
  const incoming = [{ name: 'count.mp4', path: join(work, 'count.mp4') }];
  [media] = (await importFiles(h.pool, h.store, incoming, { take: 'leave' })).media as [StoredMedia];
  all = [];
  for await (const luma of decodeLuma(h.store, media, 0, COUNT - 1)) all.push(bytes(luma));
});
afterAll(async () => {
  await h.close();
  rmSync(work, { recursive: true, force: true });
});

it.each([
  ['forwards', [5, 6, 7, 8, 30, 55, 69]],
  ['backwards, over more than a block', [69, 68, 67, 40, 20, 19, 1, 0]],
  ['from the middle both ways', [33, 34, 35, 60, 33, 32, 31, 0]],
])('gives the frames that are asked for: %s', async (_, order) => {
  const frames = new LumaFrames(h.store, media);
  for (const at of order) expect(bytes(await frames.frame(at)).equals(all[at]!), `frame ${at}`).toBe(true);
  frames.close();
});
it('refuses frames once it is closed, those still waited for too', async () => {
  const frames = new LumaFrames(h.store, media);
  await frames.frame(0);
  // far ahead of what has been asked for: the decoder waits
  const waiting = frames.frame(40);
  frames.close();
  await expect(waiting).rejects.toThrow();
  await expect(frames.frame(0)).rejects.toThrow();
});
it('keeps frames for the next who asks for the same footage, and for nobody else', async () => {
  decodeAhead(h.store, media, 12);
  const kept = takeLumaFrames(h.store, media);
  expect(bytes(await kept.frame(12)).equals(all[12]!)).toBe(true);
  // taken is taken: a second one who tracks at the same time has frames of its own
  const other = takeLumaFrames(h.store, media);
  expect(other).not.toBe(kept);
  giveBackLumaFrames(kept);
  expect(takeLumaFrames(h.store, { ...media, media: { ...media.media, id: 'another' as never } })).not.toBe(kept);
  expect(takeLumaFrames(h.store, media)).toBe(kept);
  giveBackLumaFrames(kept);
  // only the last are kept
  giveBackLumaFrames(other);
  await expect(kept.frame(12)).rejects.toThrow();
  closeKeptLumaFrames();
  await expect(other.frame(12)).rejects.toThrow();
});
