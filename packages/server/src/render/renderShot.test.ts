// Rendering a shot by itself: what breaks off leaves nothing behind, and what is written is what its tags say.
import { execFileSync } from 'node:child_process';
import { existsSync, mkdtempSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { PLAIN_PATTERN, renderFileName, framesOf, type Preset } from '@mellow/contract';
import {
  codeFromLinear,
  codesFromLinear709,
  linear709FromCodes,
  makeTables,
  NEUTRAL_SHIFT,
  renderFrame,
  sightingAt,
  sourceFrame,
  type AnimatedSighting,
  type Encoding,
} from '@mellow/core';
import type { StoredMedia } from '../db/media.ts';
import { decodeFrames } from '../media/decode.ts';
import { importFiles } from '../media/importMedia.ts';
import { encoderTurn, FFMPEG_AT_ONCE } from '../media/ffmpegTurns.ts';
import { partOf } from '../media/leftovers.ts';
import { words } from '../media/words.ts';
import { childrenWith, mostChildrenWith } from '../testing/children.ts';
import { startHarness, until, type Harness } from '../testing/harness.ts';
import { isolated } from '../testing/isolated.ts';
import { RenderPool } from './renderPool.ts';
import { renderShot, type ShotRender } from './renderShot.ts';
import { ShotFile, type WantedFile } from './shotFile.ts';

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
  media = (await importFiles(h.pool, h.store, incoming, { take: 'leave' })).media[0]!;
});
afterAll(async () => {
  await pool.close();
  await h.close();
  rmSync(work, { recursive: true, force: true });
});

const named = (shot: string, colourway: string, preset: Preset) =>
  renderFileName(PLAIN_PATTERN, { project: '', shot, colourway, n: '1', date: '' }, preset);
const shotOf = (encoding: Encoding, preset: Preset, of = media): ShotRender => {
  const span = framesOf({ span: null }, of.media);
  return { media: of, encoding, pieces: [], span, motions: new Map(), preset };
};
const NEVER = new AbortController().signal;
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
  const wanted = { sightings: [], folder, fileName, onFrame, signal: signal ?? NEVER };
  const done = renderShot(h.pool, h.store, pool, shotOf(encoding, preset, of), [wanted])[0]!;
  return { folder, file: join(folder, fileName), done };
}
const probed = (file: string, entries: string) =>
  execFileSync('ffprobe', ['-v', 'error', '-show_entries', `stream=${entries}`, '-of', 'default=nw=1', file], {
    encoding: 'utf8',
  });

/** Processes begun by this one that read raw frames. */
const writers = () => childrenWith('pipe:0');

describe('a render that breaks off', () => {
  it('by a cancel stops and leaves nothing', async () => {
    const abort = new AbortController();
    const { folder, done } = render('rec709', 'ffv1', media, () => abort.abort(new Error('cancelled')), abort.signal);
    await expect(done).rejects.toThrow();
    expect([existsSync(folder), existsSync(partOf(folder))]).toEqual([false, false]);
  });
  it('by a cancel while its file is being opened leaves no process waiting for frames', async () => {
    const abort = new AbortController();
    const wanted = { sightings: [], folder: join(work, 'opened'), fileName: 'x.mkv', onFrame: () => undefined };
    const file = new ShotFile(shotOf('rec709', 'ffv1'), { ...wanted, signal: abort.signal });
    const opened = file.open(h.store, pool, await encoderTurn());
    abort.abort(new Error('cancelled'));
    await opened;
    await expect(file.end).rejects.toThrow('cancelled');
    await until('the end of ffmpeg', () => Promise.resolve(writers().length === 0));
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
    const wanted = { sightings: [], folder: first.folder, fileName, onFrame: () => undefined, signal: NEVER };
    await expect(renderShot(h.pool, h.store, pool, shotOf('rec709', 'ffv1', longer), [wanted])[0]).rejects.toThrow(
      'frames were decoded',
    );
    expect(readdirSync(first.folder)).toEqual([fileName, 'stills']);
  });
});

describe('files made of one decode', () => {
  const PIECE = isolated({ form: 'rectangle', cx: 32, cy: 16, width: 20, height: 12, turnDeg: 0 });
  const turned = (hueDeg: number) => ({ ...PIECE, shift: { ...NEUTRAL_SHIFT, hueDeg } });
  const files = (sets: readonly AnimatedSighting[][], also: Partial<WantedFile>[] = []): WantedFile[] =>
    sets.map((sightings, i) => {
      const folder = join(work, `out-${count++}`);
      return { sightings, folder, fileName: 'Shot.mkv', onFrame: () => undefined, signal: NEVER, ...also[i] };
    });
  const framesIn = (file: WantedFile) =>
    execFileSync('ffmpeg', [
      ...words('-v error -i'),
      join(file.folder, file.fileName),
      ...words('-f rawvideo -pix_fmt gbrp16le -'),
    ]).toString('base64');
  const shot = () => ({ ...shotOf('rec709', 'ffv1'), pieces: ['Piece'] });
  const COLOURWAYS = [[], [turned(60)], [turned(-120)]];

  it('are what core makes of the footage, which has fewer samples of chroma than of luma', async () => {
    const path = join(work, 'shared.mkv');
    const red = "geq=r='if(between(X,23,42),52000,30000)':g='if(between(X,23,42),9000,30000)':b=30000";
    const film = words('-v error -y -f lavfi -i nullsrc=size=64x32:rate=24 -frames:v 1 -vf');
    execFileSync('ffmpeg', [...film, `format=gbrp16le,${red}`, ...words('-pix_fmt yuv422p10le -c:v ffv1'), path]);
    const incoming = [{ path, name: 'shared.mkv' }];
    const of = (await importFiles(h.pool, h.store, incoming, { take: 'leave' })).media[0]!;
    const soft = isolated({ form: 'rectangle', cx: 32.9, cy: 16, width: 19, height: 12, turnDeg: 0 });
    const sighting = { ...soft, shift: { ...NEUTRAL_SHIFT, hueDeg: 120 } };
    const wanted = files([[sighting]]);
    await Promise.all(
      renderShot(h.pool, h.store, pool, { ...shotOf('rec709', 'ffv1', of), pieces: ['Piece'] }, wanted),
    );
    const byCore = async (sharesChroma: boolean) => {
      for await (const codes of decodeFrames(h.store, of, { signal: NEVER })) {
        const source = sourceFrame(codes, 'rec709', 1, makeTables(), { sharesChroma });
        const { g, b, r } = renderFrame(source, [sightingAt(sighting, 0, new Map())], makeTables()).codes;
        return Buffer.concat(
          [g, b, r].map((plane) => Buffer.from(plane.buffer, plane.byteOffset, plane.byteLength)),
        ).toString('base64');
      }
    };
    expect(framesIn(wanted[0]!)).toBe(await byCore(true));
    expect(framesIn(wanted[0]!)).not.toBe(await byCore(false));
  });
  it('are those that each render by itself makes', async () => {
    const wanted = files(COLOURWAYS);
    const found = await Promise.all(renderShot(h.pool, h.store, pool, shot(), wanted));
    expect(found.map((f) => f?.frames)).toEqual([FRAMES, FRAMES, FRAMES]);
    const alone = files(COLOURWAYS);
    for (const file of alone) await renderShot(h.pool, h.store, pool, shot(), [file])[0];
    const [together, each] = [wanted.map(framesIn), alone.map(framesIn)];
    expect(together).toEqual(each);
    expect(new Set(together).size).toBe(3);
  });
  it('go on where one is cancelled, and where one cannot be written', async () => {
    const abort = new AbortController();
    const onFrame = () => abort.abort(new Error('cancelled'));
    const wanted = files(COLOURWAYS, [{ onFrame, signal: abort.signal }, { folder: join(work, 'a file', 'out') }]);
    writeFileSync(join(work, 'a file'), '');
    const ends = await Promise.allSettled(renderShot(h.pool, h.store, pool, shot(), wanted));
    expect(ends.map((end) => end.status)).toEqual(['rejected', 'rejected', 'fulfilled']);
    expect(wanted.map((file) => existsSync(file.folder))).toEqual([false, false, true]);
    expect(readdirSync(work).filter((name) => name.endsWith('.part'))).toEqual([]);
  });
  it('are as many at once as there may be encoders, and the others come after them', async () => {
    const wanted = files(Array.from({ length: FFMPEG_AT_ONCE + 1 }, (_, i) => [turned(20 * i)]));
    const alone = files(wanted.map(({ sightings }) => [...sightings]));
    for (const file of alone) await renderShot(h.pool, h.store, pool, shot(), [file])[0];
    const { most, result } = await mostChildrenWith('ffmpeg', () =>
      Promise.all(renderShot(h.pool, h.store, pool, shot(), wanted)),
    );
    expect(result.map((found) => found.frames)).toEqual(wanted.map(() => FRAMES));
    expect(wanted.map(framesIn)).toEqual(alone.map(framesIn));
    expect(most).toBeLessThanOrEqual(FFMPEG_AT_ONCE);
  });
  it('two renders at once, each of more files than that, both come to their end', async () => {
    const both = [0, 1].map(() => files(Array.from({ length: FFMPEG_AT_ONCE }, (_, i) => [turned(20 * i)])));
    const { most, result } = await mostChildrenWith('ffmpeg', () =>
      Promise.all(both.flatMap((wanted) => renderShot(h.pool, h.store, pool, shot(), wanted))),
    );
    expect(result.map((found) => found.frames)).toEqual(both.flat().map(() => FRAMES));
    expect(most).toBeLessThanOrEqual(FFMPEG_AT_ONCE);
  });
  it('all fail where the footage cannot be decoded to its end', async () => {
    const longer = { ...media, media: { ...media.media, frames: FRAMES + 1 } };
    const ends = renderShot(h.pool, h.store, pool, shotOf('rec709', 'ffv1', longer), files(COLOURWAYS));
    for (const end of ends) await expect(end).rejects.toThrow(`${FRAMES} of ${FRAMES + 1} frames were decoded`);
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
