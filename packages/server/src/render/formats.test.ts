// Every format against the numbers it was made from, read back by ffmpeg and ffprobe.
import { execFileSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync, mkdirSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { decode } from 'tiff';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { renderFileName, type Preset, type Span } from '@mellow/contract';
import { linearFromCode, type AnimatedSighting } from '@mellow/core';
import type { StoredMedia } from '../db/media.ts';
import { encoderTurn } from '../media/ffmpegTurns.ts';
import { importFiles } from '../media/importMedia.ts';
import { words } from '../media/words.ts';
import { startHarness, type Harness } from '../testing/harness.ts';
import { matteExr, mattePng16 } from './presets/mattes.ts';
import { OUTPUTS, pieceFileNames } from './presets.ts';
import { readBack } from './readBack.ts';
import { isolated } from '../testing/isolated.ts';
import { RenderPool } from './renderPool.ts';
import { renderShot } from './renderShot.ts';
import { exrFile } from './sinks/exrFile.ts';
import { hashOfFrame, packMattes } from './sinks/packed.ts';
import { bytesOf } from './sinks/samples.ts';

const [W, H, FRAMES] = [256, 144, 3];
let h: Harness;
let pool: RenderPool;
let media: StoredMedia;
let source: Uint16Array;
const work = mkdtempSync(join(tmpdir(), 'mellow-formats-'));

const read = (pixels: string, input: string, filter?: string): Buffer =>
  execFileSync(
    'ffmpeg',
    [...words('-v error -i'), input, ...(filter ? ['-vf', filter] : []), ...words(`-f rawvideo -pix_fmt ${pixels} -`)],
    { maxBuffer: 1e8 },
  );
const codesIn = (input: string, filter?: string) => {
  const bytes = read('gbrp16le', input, filter);
  return new Uint16Array(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.length));
};
const floatsIn = (input: string, pixels = 'gbrpf32le') => {
  const bytes = read(pixels, input);
  return new Float32Array(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.length));
};
const furthest = (a: ArrayLike<number>, b: ArrayLike<number>): number => {
  expect(a.length).toBe(b.length);
  let most = 0;
  for (let i = 0; i < a.length; i++) most = Math.max(most, Math.abs(a[i]! - b[i]!));
  return most;
};

beforeAll(async () => {
  h = await startHarness();
  pool = new RenderPool(1);
  const card = 'testsrc2=size=640x360:rate=24';
  const picture = ['-vf', `scale=${W}:${H}:flags=area,format=gbrp16le,setsar=1`];
  execFileSync('ffmpeg', [
    ...words(`-v error -y -f lavfi -i ${card} -frames:v ${FRAMES}`),
    ...picture,
    ...words('-c:v ffv1 -metadata timecode=01:02:03:04'),
    join(work, 'card.mkv'),
  ]);
  const incoming = [{ path: join(work, 'card.mkv'), name: 'card.mkv' }];
  media = (await importFiles(h.pool, h.store, incoming, { take: 'leave' })).media[0]!;
  source = codesIn(join(work, 'card.mkv'));
});
afterAll(async () => {
  await pool.close();
  await h.close();
  rmSync(work, { recursive: true, force: true });
});

let count = 0;
const ALL: Span = { from: 0, to: FRAMES - 1 };
async function rendered(
  preset: Preset,
  sightings: AnimatedSighting[] = [],
  pieces: string[] = [],
  span = ALL,
  of = media,
  burnIn?: string,
) {
  const folder = join(work, `out-${count++}`);
  const words = { project: '', shot: 'Card', colourway: 'Main', n: '1', date: '' };
  const fileName = renderFileName('{shot}_{colourway}', words, preset);
  const shot = { media: of, encoding: 'rec709', pieces, span, motions: new Map(), preset } as const;
  const signal = new AbortController().signal;
  const wanted = { sightings, folder, fileName, burnIn, onFrame: () => undefined, signal };
  const [readBack] = await Promise.all(renderShot(h.pool, h.store, pool, shot, [wanted]));
  const frames = join(folder, 'frames');
  return { folder, readBack, frames, stem: fileName.replace(/\.\w+$/, ''), file: join(folder, fileName) };
}
const tagsOf = (file: string, entries: string) =>
  execFileSync('ffprobe', [...words(`-v error -show_entries ${entries} -of default=nw=1`), file], {
    encoding: 'utf8',
  });

describe('alpha in the shot', () => {
  it.each([
    ['png16Alpha', 'png'],
    ['tiff16Alpha', 'tif'],
  ] as const)('%s holds what any piece selects, beside colour that is as it was', async (preset, extension) => {
    const two = [
      isolated({ form: 'rectangle', cx: 40, cy: 40, width: 40, height: 40, turnDeg: 0 }),
      isolated({ form: 'ellipse', cx: 50, cy: 50, width: 40, height: 20, turnDeg: 0 }),
    ];
    const { frames, stem, readBack } = await rendered(preset, two, ['A', 'B']);
    const numbered = join(frames, `${stem}.%06d.${extension}`);
    expect(furthest(codesIn(numbered), source)).toBe(0);
    const alpha = read('gray16le', numbered, 'alphaextract');
    const at = (x: number, y: number) => alpha.readUInt16LE(2 * (W * y + x));
    // in the one alone, in both, in the other alone, in neither
    expect([at(25, 25), at(45, 45), at(66, 50), at(100, 100)]).toEqual([65535, 65535, 65535, 0]);
    expect(readBack).toMatchObject({ frames: FRAMES, isExact: true });
  });
  it.each(['exrHalf', 'exrFloat'] as const)('%s holds it beside light that is as without it', async (preset) => {
    const one = [isolated({ form: 'ellipse', cx: 50, cy: 50, width: 40, height: 20, turnDeg: 0 })];
    const [plain, both] = [await rendered(preset), await rendered(`${preset}Alpha`, one, ['A'])];
    const floats = ({ frames, stem }: typeof both, pixels: string) =>
      new Float32Array(new Uint8Array(read(pixels, join(frames, `${stem}.%06d.exr`))).buffer);
    const [light, four] = [floats(plain, 'gbrpf32le'), floats(both, 'gbrapf32le')];
    const n = W * H;
    // planes G, B, R of the first frame, and A behind them
    expect(furthest(four.subarray(0, 3 * n), light.subarray(0, 3 * n))).toBe(0);
    expect([four[3 * n + W * 50 + 50], four[3 * n + W * 5 + 5]]).toEqual([1, 0]);
    expect(both.readBack).toMatchObject({ frames: FRAMES, isExact: preset === 'exrFloat' });
  });
});

describe('footage of two fields', () => {
  it.each(['ffv1', 'jpeg2000'] as const)('is said to be so in %s, unless it is deinterlaced', async (preset) => {
    const order = async (fields: 'top first' | 'bottom first', isDeinterlaced: boolean) => {
      const of = { ...media, media: { ...media.media, fields, isDeinterlaced } };
      const { file } = await rendered(preset, [], [], ALL, of);
      return tagsOf(file, 'stream=field_order').trim().split('=')[1];
    };
    expect(await order('top first', false)).toBe('tb');
    expect(await order('bottom first', false)).toBe('bt');
    expect(await order('top first', true)).toBe('progressive');
  });
});

describe('codes of 16 bits come back as they were', () => {
  it.each([
    ['tiff16', 'tif'],
    ['dpx16', 'dpx'],
    ['png16', 'png'],
  ] as const)('%s', async (preset, extension) => {
    const { frames, stem } = await rendered(preset);
    expect(readdirSync(frames)).toHaveLength(FRAMES);
    expect(furthest(codesIn(join(frames, `${stem}.%06d.${extension}`)), source)).toBe(0);
  });
  it('tiffFloat, as another library reads it', async () => {
    const { frames, stem } = await rendered('tiffFloat');
    expect(readdirSync(frames)).toHaveLength(FRAMES);
    const { width, height, data } = decode(readFileSync(join(frames, `${stem}.000000.tif`)))[0]!;
    const n = width * height;
    // planes G, B, R of the footage beside samples R, G, B of a pixel
    for (let i = 0; i < n; i++)
      for (const [c, plane] of [2, 0, 1].entries())
        expect(data[3 * i + c]).toBe(Math.fround(source[plane * n + i]! / 65535));
  });
  it('jpeg2000, with its colour said', async () => {
    const { file } = await rendered('jpeg2000');
    expect(furthest(codesIn(file), source)).toBe(0);
    const tags = tagsOf(file, 'stream=codec_name,color_primaries,color_transfer:format_tags');
    for (const tag of ['codec_name=jpeg2000', 'color_primaries=bt709', 'color_transfer=bt709', '01:02:03:04'])
      expect(tags).toContain(tag);
  });
});

it.each([
  ['dpx10', 'gbrp10le', 1023],
  ['dpx12', 'gbrp12le', 4095],
] as const)('%s rounds to its own codes', async (preset, pixels, maxCode) => {
  const { frames, stem } = await rendered(preset);
  const raw = read(pixels, join(frames, `${stem}.%06d.dpx`));
  const codes = new Uint16Array(raw.buffer.slice(raw.byteOffset, raw.byteOffset + raw.length));
  const rounded = source.map((v) => Math.round((v * maxCode) / 65535));
  expect(furthest(codes, rounded)).toBe(0);
});

describe('what was written is read back', () => {
  const exact: Preset[] = ['png16', 'tiff16', 'tiffFloat', 'dpx10', 'dpx12', 'dpx16', 'exrFloat', 'ffv1', 'jpeg2000'];
  it.each(exact)('%s bit for bit', async (preset) => {
    const { readBack } = await rendered(preset, [], [], { from: 1, to: 2 });
    expect(readBack).toMatchObject({ frames: 2, isExact: true });
  });
  it.each(['exrHalf', 'vc3', 'h264', 'av1'] as const)('%s frame by frame', async (preset) => {
    const { readBack } = await rendered(preset);
    expect(readBack).toMatchObject({ frames: FRAMES, isExact: false });
  });
  it.each(['mattePng16', 'matteExr'] as const)('%s bit for bit', async (preset) => {
    const one = [isolated({ form: 'ellipse', cx: 50, cy: 50, width: 40, height: 20, turnDeg: 0 })];
    const { readBack } = await rendered(preset, one, ['A'], { from: 1, to: 2 });
    expect(readBack).toEqual({ frames: 2, isExact: true, sha256: null });
  });
  it.each([
    ['mattePng16', mattePng16, 'A/A.000001.png', 'frame 1 of the matte of A is not what was rendered'],
    ['matteExr', matteExr, 'x.000001.exr', 'frame 1 of the mattes'],
  ] as const)('%s is refused where a frame of it is another', async (preset, { open, packing }, second, said) => {
    const folder = join(work, `spoilt-${preset}`);
    mkdirSync(join(folder, 'stills'), { recursive: true });
    const outgoing = { ...media.media, sound: [], firstFrame: 0, timecode: null, frames: 2 };
    const job = {
      media: outgoing,
      folder,
      fileName: 'x.zip',
      pieces: ['A'],
      hashOfTiff: () => Promise.reject(new Error('none')),
      turn: await encoderTurn(),
    };
    const frames = join(folder, 'frames');
    const sink = await open(job, frames);
    for (const shade of [0.25, 0.75]) {
      const matte = new Float32Array(W * H).fill(shade);
      await sink.write(await packMattes([matte], outgoing, packing(['A'], outgoing)));
    }
    await sink.end();
    const check = () => sink.readBack(new AbortController().signal);
    expect((await check()).frames).toBe(2);
    const files = second.replace('000001', '000000');
    writeFileSync(join(frames, second), readFileSync(join(frames, files)));
    await expect(check()).rejects.toThrow(said);
  });
  it('a single file with the hash of its bytes', async () => {
    const { readBack, file } = await rendered('ffv1');
    expect(readBack!.sha256).toBe(createHash('sha256').update(readFileSync(file)).digest('hex'));
    expect((await rendered('png16')).readBack!.sha256).toBeNull();
  });
  it('and refused where a sample or a frame is another', async () => {
    const { file } = await rendered('ffv1');
    const outgoing = { ...media.media, sound: [], firstFrame: 0, timecode: null };
    const n = 3 * W * H;
    const given = [0, 1, 2].map((i) => hashOfFrame([bytesOf(source.subarray(i * n, (i + 1) * n))]));
    const check = (hashes: string[]) =>
      readBack(OUTPUTS.ffv1 as never, outgoing, file, hashes, new AbortController().signal);
    expect((await check(given)).frames).toBe(3);
    await expect(check([given[0]!, given[2]!, given[1]!])).rejects.toThrow(
      'frame 1 of the file is not what was rendered',
    );
    await expect(check([...given, given[0]!])).rejects.toThrow('the file holds 3 frames, 4 were rendered');
  });
});

it('words are burnt into the lower edge of review files, and into nothing else', async () => {
  const [plain, burnt] = [await rendered('h264'), await rendered('h264', [], [], ALL, media, 'Card · Main')];
  const grey = (file: string, crop: string) => read('gray', file, crop);
  const upper = `crop=${W}:${H / 2}:0:0`;
  const lower = `crop=${W}:20:0:${H - 24}`;
  const apart = (crop: string) => furthest(grey(plain.file, crop), grey(burnt.file, crop));
  expect(apart(upper)).toBeLessThanOrEqual(12);
  expect(apart(lower)).toBeGreaterThan(100);
});

describe('sound', () => {
  let withSound: StoredMedia;
  const file = join(work, 'heard.mov');
  const [RATE, LONG] = [48_000, 24];
  /** All sound of a file, left and right in turn, 24 bits in 32. */
  const heard = (path: string) => {
    const args = [...words('-v error -i'), path, ...words('-vn -f s32le -c:a pcm_s32le -')];
    const bytes = execFileSync('ffmpeg', args, { maxBuffer: 1e8 });
    return new Int32Array(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.length));
  };
  beforeAll(async () => {
    // left and right differ and change all the time, so that a sample too early or too late is found
    execFileSync('ffmpeg', [
      ...words('-v error -y -f lavfi -i'),
      `testsrc2=size=256x144:rate=24:duration=${LONG / 24}`,
      ...words('-f lavfi -i'),
      `aevalsrc=0.4*sin(400*t*t*PI)|0.3*cos(900*t+3*t*t):s=${RATE}:d=${LONG / 24}`,
      ...words('-c:v ffv1 -c:a pcm_s24le'),
      file,
    ]);
    const incoming = [{ path: file, name: 'heard.mov' }];
    withSound = (await importFiles(h.pool, h.store, incoming, { take: 'leave' })).media[0]!;
  });
  const part: Span = { from: 7, to: 18 };
  it.each(['vc3', 'ffv1', 'jpeg2000'] as const)('of %s is that of its frames, to the last bit', async (preset) => {
    const { file: rendering } = await rendered(preset, [], [], part, withSound);
    const [whole, cut] = [heard(file), heard(rendering)];
    const each = (2 * RATE) / 24;
    expect(cut.length).toBe(12 * each);
    expect(furthest(cut, whole.subarray(7 * each, 19 * each))).toBe(0);
  });
  it.each(['h264', 'av1'] as const)('of %s begins with its frames', async (preset) => {
    const { file: rendering } = await rendered(preset, [], [], part, withSound);
    const [whole, cut] = [heard(file), heard(rendering)];
    const each = (2 * RATE) / 24;
    // AAC is lossy: what it makes of the sound still goes up and down with it, and with nothing a frame away
    const alike = (frame: number) => {
      let [ab, aa, bb] = [0, 0, 0];
      for (let i = 0; i < 8 * each; i += 2) {
        const [a, b] = [cut[i + each]! / 2 ** 31, whole[i + (frame + 1) * each]! / 2 ** 31];
        [ab, aa, bb] = [ab + a * b, aa + a * a, bb + b * b];
      }
      return ab / Math.sqrt(aa * bb);
    };
    expect(alike(7)).toBeGreaterThan(0.99);
    expect(Math.abs(alike(8))).toBeLessThan(0.5);
  });
  it('is not made up where there is none', async () => {
    const { file: rendering } = await rendered('h264');
    expect(tagsOf(rendering, 'stream=codec_type').match(/codec_type=\w+/g)).toEqual([
      'codec_type=video',
      'codec_type=data',
    ]);
  });
});

describe('a part of the footage', () => {
  const span: Span = { from: 1, to: 2 };
  const part = () => source.subarray(W * H * 3);
  it('as a sequence has its own frames under their own numbers', async () => {
    const { frames, stem } = await rendered('png16', [], [], span);
    expect(readdirSync(frames).sort()).toEqual([`${stem}.000001.png`, `${stem}.000002.png`]);
    expect(furthest(codesIn(join(frames, `${stem}.%06d.png`)), part())).toBe(0);
  });
  it('as a file begins at its own timecode', async () => {
    const { file } = await rendered('ffv1', [], [], span);
    expect(furthest(codesIn(file), part())).toBe(0);
    expect(tagsOf(file, 'format_tags')).toContain('01:02:03:05');
  });
  it('has each matte on its own frame', async () => {
    const blink = { strength: [0, 1, 2].map((frame) => ({ frame, value: frame / 2, ease: 'hold' as const })) };
    const [left] = [isolated({ form: 'rectangle', cx: 20, cy: 20, width: 20, height: 10, turnDeg: 0 })];
    const layers = left.layers.map((l) => ({ ...l, animated: blink }));
    const { frames } = await rendered('mattePng16', [{ ...left, layers }], ['Box'], span);
    const grey = read('gray16le', join(frames, 'Box/Box.%06d.png').replace('%06d', '000001'));
    expect(grey.readUInt16LE(2 * (20 * W + 20))).toBe(32768);
  });
});

describe('OpenEXR holds the light of the codes', () => {
  const light = () => Float32Array.from(source, (code) => linearFromCode('rec709', code / 65535));
  it('as half floats, to eleven bits', async () => {
    const { frames, stem } = await rendered('exrHalf');
    const [read, wanted] = [floatsIn(join(frames, `${stem}.%06d.exr`)), light()];
    expect(read.length).toBe(wanted.length);
    const off = read.map((v, i) => Math.abs(v - wanted[i]!) / (wanted[i]! * 2 ** -11 + 3e-6));
    expect(off.reduce((most, v) => Math.max(most, v), 0)).toBeLessThan(1);
  });
  it('as floats, to what the encoding table leaves', async () => {
    const { frames, stem, folder } = await rendered('exrFloat');
    expect(furthest(floatsIn(join(frames, `${stem}.%06d.exr`)), light())).toBeLessThan(3e-6);
    // its small pictures are fit for a screen: the light encoded again, not dark as light itself
    const shown = read('gbrp', join(folder, 'stills/0.png'));
    const first = source.subarray(0, W * H * 3);
    const mean = (values: ArrayLike<number>) => Array.from(values).reduce((a, b) => a + b, 0) / values.length;
    expect(Math.abs(mean(shown) - mean(first) / 257)).toBeLessThan(12);
  });
});

describe('movies of YCbCr look like the codes and say what they are', () => {
  const back =
    'zscale=matrixin=709:rangein=limited:matrix=gbr:range=full:primariesin=709:primaries=709:' +
    'transferin=709:transfer=709,format=gbrp16le';
  const meanOf = (codes: Uint16Array, plane: number) => {
    let sum = 0;
    for (let f = 0; f < FRAMES; f++)
      for (let i = 0; i < W * H; i++) sum += codes[f * W * H * 3 + plane * W * H + i]! / 257;
    return sum / (FRAMES * W * H);
  };
  it.each([
    ['vc3', 'dnxhd', 'yuv444p10le', 0.3],
    ['av1', 'av1', 'yuv420p10le', 1.5],
    ['h264', 'h264', 'yuv420p', 1.5],
  ] as const)('%s', async (preset, codec, pixels, slack) => {
    const { file } = await rendered(preset);
    const tags = tagsOf(file, 'stream=codec_name,pix_fmt,color_primaries,color_transfer,color_space,color_range');
    for (const tag of [
      `codec_name=${codec}`,
      `pix_fmt=${pixels}`,
      'color_primaries=bt709',
      'color_transfer=bt709',
      'color_space=bt709',
      'color_range=tv',
    ])
      expect(tags).toContain(tag);
    const codes = codesIn(file, back);
    expect(codes.length).toBe(source.length);
    for (const plane of [0, 1, 2]) expect(Math.abs(meanOf(codes, plane) - meanOf(source, plane))).toBeLessThan(slack);
  });
});

describe('mattes', () => {
  const left = isolated({ form: 'rectangle', cx: 20, cy: 20, width: 20, height: 10, turnDeg: 0 });
  const right = isolated({ form: 'rectangle', cx: 60, cy: 30, width: 31, height: 20, turnDeg: 0 });
  const isIn = (x: number, y: number, [x0, x1, y0, y1]: number[]) => x >= x0! && x < x1! && y >= y0! && y < y1!;
  const LEFT = [10, 30, 15, 25];
  it('as grey PNG are a folder a piece, black and white where the shape is', async () => {
    const { frames, folder } = await rendered('mattePng16', [left, right], ['Scarf', 'Lamp']);
    expect(readdirSync(frames).sort()).toEqual(['Lamp', 'Scarf']);
    const scarf = read('gray16le', join(frames, 'Scarf/Scarf.%06d.png'));
    const codes = new Uint16Array(scarf.buffer.slice(scarf.byteOffset, scarf.byteOffset + scarf.length));
    expect(codes.length).toBe(W * H * FRAMES);
    for (let i = 0; i < codes.length; i++) {
      const [x, y] = [i % W, Math.floor(i / W) % H];
      if (codes[i] !== (isIn(x, y, LEFT) ? 65535 : 0)) throw new Error(`${x}, ${y} is ${codes[i]}`);
    }
    // the small pictures show both
    const still = read('gray', join(folder, 'stills/0.png'));
    expect([still[20 * W + 20], still[30 * W + 60], still[5 * W + 5]]).toEqual([255, 255, 0]);
  });
  it('as one OpenEXR have a channel a piece; half a pixel is half', async () => {
    const { frames, stem } = await rendered('matteExr', [right], ['Y']);
    expect(readdirSync(frames)).toHaveLength(FRAMES);
    // ffmpeg reads a channel of this name as grey
    const alpha = floatsIn(join(frames, `${stem}.%06d.exr`), 'grayf32le');
    const at = (x: number, y: number) => alpha[y * W + x];
    expect([at(60, 30), at(46, 21), at(44, 30), at(75, 30), at(60, 41)]).toEqual([1, 1, 0.5, 0.5, 0]);
  });
  it('of pieces with like names go to files of their own', () => {
    expect(pieceFileNames(['Töpfe!', 'Topfe', 'Topfe-2', '?'])).toEqual(['Topfe', 'Topfe-2', 'Topfe-2-2', 'untitled']);
  });
});

describe('an OpenEXR file of our own', () => {
  it('is read by ffmpeg as it was written, channels sorted, at a height that is no multiple of a block', async () => {
    const [width, height] = [37, 21];
    const plane = (seed: number) =>
      Float32Array.from({ length: width * height }, (_, i) => ((i * seed) % 1024) / 1024 - 0.25);
    const [r, g, b] = [plane(7), plane(13), plane(29)];
    const channels = [
      { name: 'R', plane: r },
      { name: 'B', plane: b },
      { name: 'G', plane: g },
    ];
    const file = join(work, 'own.exr');
    writeFileSync(file, await exrFile({ width, height, channels }));
    expect(furthest(floatsIn(file), [...g, ...b, ...r])).toBeLessThanOrEqual(2 ** -12);
    expect(existsSync(file)).toBe(true);
  });
});
