// Rendering a shot by itself: what breaks off leaves nothing behind, and what is written is what its tags say.
import { execFileSync } from 'node:child_process';
import { existsSync, mkdtempSync, readdirSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { PLAIN_PATTERN, renderFileName, framesOf, type Preset } from '@mellow/contract';
import { codeFromLinear, codesFromLinear709, linear709FromCodes, type Encoding } from '@mellow/core';
import type { StoredMedia } from '../db/media.ts';
import { importFiles } from '../media/importMedia.ts';
import { words } from '../media/words.ts';
import { startHarness, type Harness } from '../testing/harness.ts';
import { RenderPool } from './renderPool.ts';
import { renderShot } from './renderShot.ts';

let h: Harness;
let pool: RenderPool;
let media: StoredMedia;
const work = mkdtempSync(join(tmpdir(), 'mellow-shot-'));
const FRAMES = 6;
/** One flat colour of these 16-bit codes, in R, G, B. */
const CODES = [11796, 30000, 45000] as const;

beforeAll(async () => {
  h = await startHarness();
  pool = new RenderPool(1);
  const flat = `geq=r=${CODES[0]}:g=${CODES[1]}:b=${CODES[2]}`;
  execFileSync('ffmpeg', [
    ...words('-v error -y -f lavfi -i nullsrc=size=64x32:rate=24 -frames:v'),
    String(FRAMES),
    '-vf',
    `format=gbrp16le,${flat}`,
    ...words('-c:v ffv1'),
    join(work, 'flat.mkv'),
  ]);
  const incoming = [{ path: join(work, 'flat.mkv'), name: 'flat.mkv' }];
  media = (await importFiles(h.pool, h.store, incoming, { keep: true })).media[0]!;
});
afterAll(async () => {
  await pool.close();
  await h.close();
  rmSync(work, { recursive: true, force: true });
});

const named = (shot: string, colourway: string, preset: Preset) =>
  renderFileName(PLAIN_PATTERN, { project: '', shot, colourway, n: '1', date: '' }, preset);
let count = 0;
function render(
  encoding: Encoding,
  preset: Preset,
  of = media,
  onFrame: (done: number) => void = () => undefined,
  signal?: AbortSignal,
) {
  const folder = join(work, `out-${count++}`);
  const fileName = named('Shot', 'Main', preset);
  const job = {
    media: of,
    encoding,
    sightings: [],
    pieces: [],
    span: framesOf({ span: null }, of.media),
    motions: new Map(),
    preset,
    folder,
    fileName,
  };
  const done = renderShot(h.pool, h.store, pool, job, onFrame, signal ?? new AbortController().signal);
  return { folder, file: join(folder, fileName), done };
}
const probed = (file: string, entries: string) =>
  execFileSync('ffprobe', ['-v', 'error', '-show_entries', `stream=${entries}`, '-of', 'default=nw=1', file], {
    encoding: 'utf8',
  });

describe('a render that breaks off', () => {
  it('by a cancel stops and leaves nothing', async () => {
    const abort = new AbortController();
    const { folder, done } = render('rec709', 'ffv1', media, () => abort.abort(new Error('cancelled')), abort.signal);
    await expect(done).rejects.toThrow();
    expect([existsSync(folder), existsSync(`${folder}.part`)]).toEqual([false, false]);
  });
  it('because fewer frames come than the footage has is no finished render', async () => {
    const longer = { ...media, media: { ...media.media, frames: FRAMES + 1 } };
    const { folder, done } = render('rec709', 'ffv1', longer);
    await expect(done).rejects.toThrow(`${FRAMES} of ${FRAMES + 1} frames were decoded`);
    expect(existsSync(folder)).toBe(false);
  });
  it('leaves a finished one of before as it was', async () => {
    const first = render('rec709', 'ffv1');
    await first.done;
    const longer = { ...media, media: { ...media.media, frames: FRAMES + 1 } };
    const fileName = named('Shot', 'Main', 'ffv1');
    const again = {
      media: longer,
      encoding: 'rec709' as const,
      sightings: [],
      pieces: [],
      span: { from: 0, to: FRAMES },
      motions: new Map(),
      preset: 'ffv1' as const,
    };
    const signal = new AbortController().signal;
    await expect(
      renderShot(h.pool, h.store, pool, { ...again, folder: first.folder, fileName }, () => undefined, signal),
    ).rejects.toThrow();
    expect(readdirSync(first.folder)).toEqual([fileName, 'stills']);
  });
});

describe('what is written', () => {
  it.each([
    ['srgb', 'bt709', 'iec61966-2-1'],
    ['rec709', 'bt709', 'bt709'],
    ['linear709', 'bt709', 'linear'],
    ['display-p3', 'smpte432', 'iec61966-2-1'],
    ['rec2020', 'bt2020', 'bt2020-10'],
    ['rec2100-pq', 'bt2020', 'smpte2084'],
    ['rec2100-hlg', 'bt2020', 'arib-std-b67'],
    ['linear-p3', 'smpte432', 'linear'],
    ['acescct', 'unknown', 'unknown'],
  ] as const)('as FFV1 of a shot in %s says so, and holds its codes', async (encoding, primaries, transfer) => {
    const { file, done } = render(encoding, 'ffv1');
    await done;
    const tags = probed(file, 'color_primaries,color_transfer,color_range,color_space');
    for (const tag of [
      `color_primaries=${primaries}`,
      `color_transfer=${transfer}`,
      'color_range=pc',
      'color_space=gbr',
    ])
      expect(tags).toContain(tag);
    const raw = execFileSync('ffmpeg', [...words('-v error -i'), file, ...words('-f rawvideo -pix_fmt rgb48le -')]);
    expect([0, 2, 4].map((at) => raw.readUInt16LE(at))).toEqual([...CODES]);
  });
  it.each(['srgb', 'rec709', 'linear709', 'display-p3', 'rec2020', 'rec2100-hlg', 'acescct'] as const)(
    'as H.264 of a shot in %s is the same light in BT.709, and says so',
    async (encoding) => {
      const { file, done } = render(encoding, 'h264');
      await done;
      const tags = probed(file, 'color_primaries,color_transfer,color_range,color_space,pix_fmt');
      for (const tag of ['color_primaries=bt709', 'color_transfer=bt709', 'color_range=tv', 'color_space=bt709'])
        expect(tags).toContain(tag);
      const toRgb = 'zscale=matrixin=709:rangein=limited:matrix=gbr:range=full,format=gbrp16le';
      const args = [...words('-v error -i'), file, '-vf', toRgb, ...words('-f rawvideo -pix_fmt rgb48le -')];
      const raw = execFileSync('ffmpeg', args);
      const light = linear709FromCodes(encoding, CODES.map((c) => c / 65535) as [number, number, number]);
      codesFromLinear709('rec709', light).forEach((code, c) => {
        const wanted = Math.min(Math.max(code, 0), 1) * 255;
        // 8 bits in YCbCr: half a code of luma and one of chroma, times 1.86
        expect(Math.abs(raw.readUInt16LE(2 * c) / 257 - wanted)).toBeLessThanOrEqual(2.5);
      });
    },
  );
  it('of linear footage keeps 18 % grey at 18 % of white: 0.18^(1/2.4) of the signal', () => {
    expect(codesFromLinear709('rec709', linear709FromCodes('linear709', [0.18, 0.18, 0.18]))[0]).toBeCloseTo(0.4894, 4);
    expect(codeFromLinear('rec709', 0.18)).toBeCloseTo(0.18 ** (1 / 2.4), 12);
  });
});

it('file names are plain, and short enough whatever shots and colourways are called', () => {
  expect(named('1 Platform', 'Café Crème', 'ffv1')).toBe('1-Platform_Cafe-Creme.mkv');
  expect(named('…', '橙', 'h264')).toBe('untitled_untitled.mp4');
  const long = named('x'.repeat(120), 'ﬃ'.repeat(120), 'png16');
  expect(Buffer.byteLength(long)).toBeLessThanOrEqual(200);
});
