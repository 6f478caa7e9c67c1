import { execFileSync } from 'node:child_process';
import { mkdirSync, mkdtempSync, readFileSync, rmSync, symlinkSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { startHarness, until, type Harness } from '../testing/harness.ts';
import { decodeFrames, decodeLuma } from './decode.ts';
import { findMedia } from '../db/media.ts';
import { groupFiles } from './sequence.ts';
import { safeFileName } from './store.ts';
import { words } from './words.ts';

let h: Harness;
const work = mkdtempSync(join(tmpdir(), 'mellow-media-'));
beforeAll(async () => void (h = await startHarness({ workers: true })));
afterAll(async () => {
  await h.close();
  rmSync(work, { recursive: true, force: true });
});

const ffmpeg = (...args: string[]) => execFileSync('ffmpeg', ['-v', 'error', '-y', ...args], { cwd: work });
async function upload(projectId: string, files: string[], fps?: number) {
  const form = new FormData();
  if (fps) form.append('fps', String(fps));
  for (const file of files) form.append('files', new Blob([readFileSync(join(work, file))]), file);
  const response = await fetch(`${h.url}/api/projects/${projectId}/media`, { method: 'POST', body: form });
  return {
    status: response.status,
    body: (await response.json()) as { mediaIds: string[]; shotIds: string[]; detail: string; code: string },
  };
}
const newProject = async () => (await h.call('createProject', {}, { name: 'Media' })).id;
async function importOne(files: string[], fps?: number) {
  const projectId = await newProject();
  const { status, body } = await upload(projectId, files, fps);
  expect(status, body.detail).toBe(201);
  const document = await h.call('getProject', { projectId });
  return { projectId, media: document.media[0]!, shot: document.shots[0]!.value };
}
async function firstFrame(mediaId: string) {
  const stored = (await findMedia(h.pool, mediaId as never))!;
  for await (const frame of decodeFrames(h.store, stored)) return frame;
  throw new Error('no frame');
}

describe('video', () => {
  it('shows ffmpeg’s BT.709 limited-range colour bars at their published RGB values, within a code', async () => {
    ffmpeg(
      ...words('-f lavfi -i smptehdbars=size=1280x720:rate=24 -frames:v 3 -vf format=yuv444p10le -c:v ffv1'),
      ...words('-color_range tv -colorspace bt709 -color_primaries bt709 -color_trc bt709 bars.mkv'),
    );
    const { media } = await importOne(['bars.mkv']);
    expect(media).toMatchObject({
      width: 1280,
      height: 720,
      frames: 3,
      fps: { num: 24, den: 1 },
      range: 'limited',
      matrix: 'bt709',
      bitDepth: 10,
      proposedEncoding: 'rec709',
    });
    const frame = await firstFrame(media.id);
    // SMPTE RP 219-1: 40 % grey, then 75 % bars: 102 and 191.25 of 255. Bars are 1/8 and 3/28 wide.
    const bars: [string, number[]][] = [
      ['grey', [102, 102, 102]],
      ['white', [191, 191, 191]],
      ['yellow', [191, 191, 0]],
      ['cyan', [0, 191, 191]],
      ['green', [0, 191, 0]],
      ['magenta', [191, 0, 191]],
      ['red', [191, 0, 0]],
      ['blue', [0, 0, 191]],
    ];
    bars.forEach(([name, rgb], i) => {
      const x = i === 0 ? 80 : Math.round(160 + (i - 0.5) * (960 / 7));
      const at = 100 * 1280 + x;
      const seen = [frame.r[at]!, frame.g[at]!, frame.b[at]!].map((v) => v / 257);
      seen.forEach((v, c) =>
        expect(Math.abs(v - (rgb[c] === 191 ? 191.25 : rgb[c]!)), `${name} channel ${c}: ${v}`).toBeLessThanOrEqual(1),
      );
    });
  });
  it.each([
    [
      'H.264 with B-frames, key frames far apart, sound that begins before the picture',
      'late.mp4',
      true,
      [
        ...words('-f lavfi -i sine=d=2 -itsoffset 0.25 -f lavfi -i testsrc2=size=160x90:rate=24000/1001'),
        ...words('-frames:v 30 -fps_mode passthrough -c:v libx264 -crf 4 -g 12 -bf 3 -pix_fmt yuv420p -c:a'),
        ...words('aac -map 1:v -map 0:a'),
      ],
    ],
    [
      'open groups of pictures',
      'open.mkv',
      true,
      [
        ...words('-f lavfi -i testsrc2=size=160x90:rate=25 -frames:v 30 -c:v libx264 -crf 4 -x264-params'),
        ...words('open-gop=1:keyint=8:bframes=3 -pix_fmt yuv420p'),
      ],
    ],
    [
      'ProRes',
      'intra.mov',
      true,
      ['-f', 'lavfi', '-i', 'testsrc2=size=160x90:rate=30', '-frames:v', '12', '-c:v', 'prores_ks'],
    ],
    [
      'a container without an index',
      'stream.ts',
      false,
      [...words('-f lavfi -i testsrc2=size=160x90:rate=25 -frames:v 12 -c:v libx264 -crf 4 -pix_fmt yuv420p')],
    ],
  ])('reads frames from the middle on as it does from the start: %s', async (_, file, seeks, args) => {
    ffmpeg(...args, file);
    const { media } = await importOne([file]);
    const stored = (await findMedia(h.pool, media.id))!;
    expect(typeof stored.files.firstFrameSeconds === 'number').toBe(seeks);
    const read = async (first: number, last: number) => {
      const out: Buffer[] = [];
      for await (const luma of decodeLuma(h.store, stored, first, last))
        out.push(Buffer.from(luma.buffer, luma.byteOffset, luma.byteLength));
      return out;
    };
    const all = await read(0, media.frames - 1);
    expect(all.length).toBe(media.frames);
    for (const first of [1, 5, 7, 8, media.frames - 1]) {
      const last = Math.min(first + 2, media.frames - 1);
      const part = await read(first, last);
      expect(part.map((frame) => all.findIndex((a) => a.equals(frame)))).toEqual(
        Array.from({ length: last - first + 1 }, (_, k) => first + k),
      );
    }
  });
  it('keeps the exact rate, frame count and timecode', async () => {
    ffmpeg(
      ...words('-f lavfi -i testsrc2=size=320x180:rate=24000/1001 -frames:v 25 -timecode 01:00:00:00 -c:v'),
      ...words('libx264 -pix_fmt yuv420p drop.mp4'),
    );
    const { media } = await importOne(['drop.mp4']);
    expect(media).toMatchObject({ fps: { num: 24000, den: 1001 }, frames: 25, timecode: '01:00:00:00' });
    expect(media.notes.join(' ')).toContain('not stated');
  });
  it('makes proxies as a job, whose codes are the decoded ones', async () => {
    ffmpeg(...words('-f lavfi -i testsrc2=size=320x180:rate=24 -frames:v 6 -vf format=gbrp -c:v ffv1 small.mkv'));
    const { projectId, media } = await importOne(['small.mkv']);
    await until('proxies', async () => (await h.call('getProject', { projectId })).proxies[media.id]?.state === 'done');
    const response = await fetch(`${h.url}/api/media/${media.id}/frames/proxy/5.png`);
    expect([response.status, response.headers.get('cache-control')]).toEqual([
      200,
      'private, max-age=31536000, immutable',
    ]);
    writeFileSync(join(work, 'proxy.png'), Buffer.from(await response.arrayBuffer()));
    const png = execFileSync('ffmpeg', [
      '-v',
      'error',
      '-i',
      join(work, 'proxy.png'),
      '-f',
      'rawvideo',
      '-pix_fmt',
      'rgb24',
      '-',
    ]);
    const direct = execFileSync(
      'ffmpeg',
      [
        '-v',
        'error',
        '-i',
        join(work, 'small.mkv'),
        ...words('-vf select=eq(n\\,5) -frames:v 1 -f rawvideo -pix_fmt rgb24 -'),
      ],
      { maxBuffer: 1e7 },
    );
    expect(png.equals(direct)).toBe(true);
    expect((await fetch(`${h.url}/api/media/${media.id}/frames/proxy/6.png`)).status).toBe(404);
    expect((await fetch(`${h.url}/api/media/${media.id}/frames/other/0.png`)).status).toBe(404);
  });
  it('imports the same file once and shares its proxies', async () => {
    const first = await importOne(['small.mkv']);
    const again = await importOne(['small.mkv']);
    expect(again.media.id).toBe(first.media.id);
    expect(again.shot.id).not.toBe(first.shot.id);
  });
  it('reads odd sizes and full range', async () => {
    ffmpeg(
      ...words('-f lavfi -i color=c=0x804020:size=640x360:rate=25,format=rgb24 -frames:v 2 -vf'),
      ...words(
        'scale=319:181,setsar=1,format=gbrp,zscale=matrixin=gbr:rangein=full:matrix=709:range=full:' +
          'primariesin=709:primaries=709:transferin=709:transfer=709,format=yuv444p',
      ),
      ...words('-c:v ffv1 -color_range pc -colorspace bt709 odd.mkv'),
    );
    const { media } = await importOne(['odd.mkv']);
    expect(media).toMatchObject({ width: 319, height: 181, range: 'full' });
    const frame = await firstFrame(media.id);
    // 8-bit YCbCr rounds Y and Cb by half a code, and BT.709 blue is Y + 1.8556 Cb: 0.5 + 0.93
    [frame.r, frame.g, frame.b].forEach((plane, c) =>
      expect(Math.abs(plane[5000]! / 257 - [128, 64, 32][c]!)).toBeLessThanOrEqual(1.43),
    );
  });
});

describe('image sequences', () => {
  it.each([
    ['png', 'rgb48be', 16, 'srgb'],
    ['tif', 'rgb48le', 16, 'srgb'],
    ['dpx', 'gbrp10be', 10, 'rec709'], // its header says linear, which 10 bits cannot hold
    ['exr', 'gbrpf32le', 32, 'linear709'],
    ['jpg', 'yuvj444p', 8, 'srgb'],
  ])(
    '%s is imported in order with its depth and a proposed encoding',
    async (extension, format, bitDepth, proposedEncoding) => {
      ffmpeg(
        ...words('-f lavfi -i testsrc2=size=128x72:rate=24 -frames:v 4 -pix_fmt'),
        format,
        '-start_number',
        '1001',
        `plate.%04d.${extension}`,
      );
      const { media, shot } = await importOne(
        [1003, 1001, 1004, 1002].map((n) => `plate.${n}.${extension}`),
        25,
      );
      expect(media).toMatchObject({
        kind: 'sequence',
        frames: 4,
        name: `plate.[1001-1004].${extension}`,
        bitDepth,
        proposedEncoding,
        fps: { num: 25000, den: 1000 },
      });
      expect(shot.name).toBe('plate');
    },
  );
  it('keeps all 16 bits of a PNG', async () => {
    const codes = Uint16Array.from({ length: 256 * 3 }, (_, i) => (i * 251) % 65536);
    writeFileSync(join(work, 'ramp.raw'), Buffer.from(codes.buffer));
    ffmpeg(...words('-f rawvideo -pix_fmt rgb48le -video_size 16x16 -i ramp.raw -frames:v 1 ramp.0001.png'));
    const frame = await firstFrame((await importOne(['ramp.0001.png'])).media.id);
    for (let i = 0; i < 256; i++)
      expect([frame.r[i], frame.g[i], frame.b[i]]).toEqual([...codes.subarray(3 * i, 3 * i + 3)]);
  });
  it('names the frames that are missing', () => {
    const group = (...names: string[]) => groupFiles(names.map((name) => ({ path: `/in/${name}`, name })));
    expect(group('a.0001.png', 'a.0002.png', 'a.0005.png').refused[0]!.reason).toContain('frames are missing: 3, 4');
    expect(group('b_9.exr', 'b_10.exr').groups[0]).toMatchObject({
      input: 'b_%d.exr',
      startNumber: 9,
      files: [{ name: 'b_9.exr' }, { name: 'b_10.exr' }],
    });
  });
});

describe('refused, with nothing stored', () => {
  const refused = async (files: string[], reason: RegExp) => {
    const projectId = await newProject();
    const { rows: before } = await h.pool.query('select count(*) from media');
    const { status, body } = await upload(projectId, files);
    expect([status, body.code]).toEqual([422, 'refused-media']);
    expect(body.detail).toMatch(reason);
    expect(body.detail).not.toContain(h.store.root);
    expect((await h.pool.query('select count(*) from media')).rows).toEqual(before);
    expect((await h.call('getProject', { projectId })).shots).toEqual([]);
  };
  it('a text file called mp4', async () => {
    writeFileSync(join(work, 'text.mp4'), 'this is not a film');
    await refused(['text.mp4'], /cannot be read as video/);
  });
  it('a playlist that names other files', async () => {
    writeFileSync(join(work, 'list.mkv'), '#EXTM3U\n#EXTINF:1,\n/etc/passwd\n');
    await refused(['list.mkv'], /cannot be read/);
    writeFileSync(join(work, 'concat.mp4'), `ffconcat version 1.0\nfile ${join(work, 'bars.mkv')}\n`);
    await refused(['concat.mp4'], /cannot be read/);
  });
  it('a file cut off in the middle', async () => {
    ffmpeg('-f', 'lavfi', '-i', 'testsrc2=size=320x180:rate=24', '-frames:v', '24', '-c:v', 'libx264', 'whole.mp4');
    writeFileSync(join(work, 'cut.mp4'), readFileSync(join(work, 'whole.mp4')).subarray(0, 9000));
    await refused(['cut.mp4'], /cannot be read|decoded to its end/);
  });
  it('a varying frame rate', async () => {
    ffmpeg(
      ...words('-f lavfi -i testsrc2=size=64x64:rate=24 -frames:v 12 -vf'),
      "select='not(eq(n\\,5)+eq(n\\,6))'",
      '-fps_mode',
      'vfr',
      '-c:v',
      'libx264',
      'vfr.mp4',
    );
    await refused(['vfr.mp4'], /frame rate varies/);
  });
  it('PQ of other primaries than those it is made for', async () => {
    ffmpeg(
      ...words('-f lavfi -i testsrc2=size=64x64:rate=24 -frames:v 2 -pix_fmt yuv420p10le -c:v libx265'),
      ...words('-x265-params log-level=none -color_primaries bt709 -color_trc smpte2084 -colorspace'),
      ...words('bt709 pq.mp4'),
    );
    await refused(['pq.mp4'], /transfer function \(smpte2084\) is supported with bt2020 primaries only/);
  });
  it('a kind of file that is no picture', async () => {
    writeFileSync(join(work, 'notes.txt'), 'x');
    await refused(['notes.txt'], /neither a video nor an image/);
  });
});

describe('media folder', () => {
  it('lists sequences as one entry, imports without moving, and does not leave the folder', async () => {
    mkdirSync(join(h.store.inbox, 'day 1'), { recursive: true });
    ffmpeg(...words('-f lavfi -i testsrc2=size=64x64:rate=24 -frames:v 3'), join(h.store.inbox, 'day 1', 'x_%03d.png'));
    symlinkSync('/etc', join(h.store.inbox, 'out'));
    const list = (await (await fetch(`${h.url}/api/media-folder?path=day%201`)).json()) as {
      name: string;
      path: string;
      frames: number;
    }[];
    expect(list).toMatchObject([{ name: 'x_[001-003].png', frames: 3 }]);
    const projectId = await newProject();
    await h.call('importFromFolder', { projectId }, { paths: [list[0]!.path] });
    expect((await h.call('getProject', { projectId })).media[0]).toMatchObject({ frames: 3 });
    for (const path of ['../store', '../../etc/passwd', 'out/passwd', 'out', '/etc/passwd', 'nothing.mp4'])
      expect(
        (await h.problem('importFromFolder', { projectId }, { paths: [path] })).status,
        path,
      ).toBeGreaterThanOrEqual(400);
    expect((await fetch(`${h.url}/api/media-folder?path=out`)).status).toBe(400);
  });
  it('keeps folders out of file names', () => {
    expect(safeFileName('../../x.mp4')).toBe('x.mp4');
    expect(safeFileName('a\\b\\%d.png')).toBe('_d.png');
    expect(() => safeFileName('..')).toThrow('is not a file name');
  });
});
