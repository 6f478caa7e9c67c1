// Decoders that are more than may run at once make room for one another.
import { execFileSync } from 'node:child_process';
import { mkdtempSync, readdirSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { hasAlpha } from '@mellow/contract';
import { findMedia, type StoredMedia } from '../db/media.ts';
import { childrenWith, mostChildrenWith } from '../testing/children.ts';
import { startHarness, until, type Harness } from '../testing/harness.ts';
import { decodeAlpha, decodeFrames, decodeLuma } from './decode.ts';
import { FFMPEG_AT_ONCE } from './ffmpegTurns.ts';
import { importFiles } from './importMedia.ts';
import { rawFrames } from './rawFrames.ts';
import { words } from './words.ts';

const FRAMES = 12;
const work = mkdtempSync(join(tmpdir(), 'mellow-raw-'));
let h: Harness;
const made = new Map<string, StoredMedia>();

/** Footage that is begun anew in its own way each. */
const FILMS = {
  'frames between frames': words('-c:v libx264 -g 250 -bf 2 -pix_fmt yuv420p between.mp4'),
  'two fields': words('-vf interlace -c:v libx264 -flags +ildct+ilme -x264opts tff=1 -pix_fmt yuv420p fields.mp4'),
  alpha: words('-vf format=gbrap,geq=r=r(X\\,Y):g=g(X\\,Y):b=b(X\\,Y):a=mod(X+20*N\\,256) -c:v ffv1 -g 5 alpha.mkv'),
};
beforeAll(async () => {
  h = await startHarness({ workers: false });
  for (const [what, args] of Object.entries(FILMS)) {
    const source = words(`-v error -y -f lavfi -i testsrc2=size=320x180:rate=25 -frames:v ${FRAMES}`);
    execFileSync('ffmpeg', [...source, ...args], { cwd: work });
    const name = args.at(-1)!;
    const { media } = await importFiles(h.pool, h.store, [{ name, path: join(work, name) }], { take: 'leave' });
    made.set(what, (await findMedia(h.pool, media[0]!.media.id))!);
  }
  const between = made.get('frames between frames')!;
  made.set('no times to begin at', { ...between, files: { ...between.files, firstFrameSeconds: null } });
});
afterAll(async () => {
  await h.close();
  rmSync(work, { recursive: true, force: true });
});
const bytes = (plane: { buffer: ArrayBufferLike; byteOffset: number; byteLength: number }) =>
  Buffer.from(plane.buffer as ArrayBuffer, plane.byteOffset, plane.byteLength).toString('base64');
async function all<T>(frames: AsyncIterable<T>): Promise<T[]> {
  const list: T[] = [];
  for await (const frame of frames) list.push(frame);
  return list;
}

it.each([...Object.keys(FILMS), 'no times to begin at'])(
  'of footage of %s, with the same frames, and no more than that at once',
  async (what) => {
    const film = made.get(what)!;
    const { width, height } = film.media;
    async function* pictures() {
      for await (const { r } of decodeFrames(h.store, film, { span: { from: 1, to: FRAMES - 2 } })) yield bytes(r);
    }
    async function* lumas() {
      for await (const luma of decodeLuma(h.store, film, 1, FRAMES - 2)) yield bytes(luma);
    }
    async function* mattes() {
      let n = 0;
      // of these all come, from the first on
      for await (const alpha of decodeAlpha(h.store, film, { width, height }))
        if (n++ > 0 && n < FRAMES) yield bytes(alpha);
    }
    const ways = [pictures, lumas, ...(hasAlpha(film.media.pixelFormat) ? [mattes] : [])];
    const alone = await Promise.all(ways.map((way) => all(way())));
    expect(alone[0]).toHaveLength(FRAMES - 2);
    expect(new Set(alone[0]).size).toBe(FRAMES - 2);

    // nobody's next frame is asked for before everybody's last one has come
    const { most } = await mostChildrenWith('ffmpeg', async () => {
      const readers = Array.from({ length: FFMPEG_AT_ONCE + 1 }, (_, k) => ways[k % ways.length]!());
      for (let n = 0; n < FRAMES - 2; n++)
        for (const [k, reader] of readers.entries())
          expect((await reader.next()).value, `frame ${n} of reader ${k}`).toBe(alone[k % ways.length]![n]);
      for (const reader of readers) expect((await reader.next()).done).toBe(true);
    });
    expect(most).toBe(FFMPEG_AT_ONCE);
  },
);
it('one that gives no frame for too long is ended, and said to hang', async () => {
  const slow = { input: words('-re -f lavfi -i color=size=16x16'), filters: 'null' };
  const wanted = { from: () => slow, format: 'gray', bytesPerFrame: 1e6, due: 2, isPart: false, mostMs: 300 };
  await expect(rawFrames(wanted).next()).rejects.toThrow(/nothing was heard/);
  await until('its end', async () => childrenWith('ffmpeg').length === 0);
});
it('one that is left before its end is ended, its turn is free, and its pipe closed', async () => {
  const film = made.get('frames between frames')!;
  const before = readdirSync('/proc/self/fd').length;
  for (let n = 0; n < 4 * FFMPEG_AT_ONCE; n++) for await (const frame of decodeFrames(h.store, film)) if (frame) break;
  await until('their end', async () => childrenWith('ffmpeg').length === 0);
  await until('the closing', async () => readdirSync('/proc/self/fd').length <= before + 2);
});
