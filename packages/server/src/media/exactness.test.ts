// Code values as they come out of the decoder, against values worked out outside the product's own path.
import { execFileSync, spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { linear709FromCodes } from '@mellow/core';
import Color from 'colorjs.io';
import { findMedia } from '../db/media.ts';
import { exrFile } from '../render/sinks/exrFile.ts';
import { startHarness, until, type Harness } from '../testing/harness.ts';
import { upload } from '../testing/uploading.ts';
import { decodeFrames } from './decode.ts';
import { words } from './words.ts';

let h: Harness;
const work = mkdtempSync(join(tmpdir(), 'mellow-exact-'));
beforeAll(async () => void (h = await startHarness({ workers: true })));
afterAll(async () => {
  await h.close();
  rmSync(work, { recursive: true, force: true });
});

const ffmpeg = (...args: string[]) => execFileSync('ffmpeg', ['-v', 'error', '-y', ...args], { cwd: work });
async function imported(...names: string[]) {
  const projectId = (await h.call('createProject', {}, { name: 'Exact' })).id;
  const { status, body } = await upload(
    h,
    projectId,
    names.map((name) => join(work, name)),
  );
  expect(status, body.detail).toBe(201);
  const document = await h.call('getProject', { projectId });
  const stored = (await findMedia(h.pool, document.media[0]!.id))!;
  for await (const frame of decodeFrames(h.store, stored)) return { projectId, stored, frame };
  throw new Error('no frame');
}

/** Random planes of a depth, G, B and R, from a fixed seed. */
function noise(depth: number, size: number): Uint16Array {
  let state = depth;
  const next = () => (state = (Math.imul(state, 1664525) + 1013904223) >>> 0) / 2 ** 32;
  return Uint16Array.from({ length: 3 * size }, () => Math.floor(next() * 2 ** depth));
}
const bigEndian = (codes: Uint16Array) => Buffer.from(codes.buffer.slice(0)).swap16();

describe('RGB of 10 and 12 bits is expanded exactly: v · 65535 / (2^bits − 1), rounded', () => {
  const [W, H] = [48, 32];
  it.each([
    ['gbrp10le', 10, 'ten.mkv', words('-c:v ffv1')],
    ['gbrp12le', 12, 'twelve.mkv', words('-c:v ffv1')],
    ['gbrp10be', 10, 'ten_1.dpx', []],
    ['gbrp12be', 12, 'twelve_1.dpx', []],
    ['gray12le', 12, 'grey.mkv', words('-c:v ffv1')],
  ])('%s', async (pixelFormat, depth, file, codec) => {
    const codes = noise(depth, W * H);
    const planes = pixelFormat.startsWith('gray') ? codes.subarray(0, W * H) : codes;
    const raw = pixelFormat.endsWith('be') ? bigEndian(codes) : Buffer.from(planes.buffer, 0, planes.byteLength);
    const args = ['-f', 'rawvideo', '-pix_fmt', pixelFormat, '-video_size', `${W}x${H}`, '-framerate', '24'];
    const made = spawnSync('ffmpeg', ['-v', 'error', '-y', ...args, '-i', 'pipe:0', ...codec, file], {
      cwd: work,
      input: raw,
    });
    expect(made.status, made.stderr.toString()).toBe(0);
    const { frame } = await imported(file);
    const wanted = (code: number) => (code * 65535) / (2 ** depth - 1);
    const plane = (k: number) => (pixelFormat.startsWith('gray') ? planes : codes.subarray(k * W * H, (k + 1) * W * H));
    [frame.g, frame.b, frame.r].forEach((out, k) => {
      for (let i = 0; i < W * H; i++) expect(Math.abs(out[i]! - wanted(plane(k)[i]!))).toBeLessThanOrEqual(0.51);
    });
  });
});

describe('odd sizes in 4:2:0', () => {
  it.each([
    // rounding of the 8-bit ramp, of luma (× 255/219) and twice of chroma (× 1.86 · 255/224) comes to 3.2 of 255
    ['720x405', 'odd.mkv', words('-pix_fmt yuv420p -c:v ffv1'), 3.6],
    ['405x720', 'oddWide.mkv', words('-pix_fmt yuv420p -c:v ffv1'), 3.6],
    ['405x321', 'ten.mkv', words('-pix_fmt yuv420p10le -c:v ffv1'), 1.7],
    // the file itself errs by its quantisation
    ['1000x563', 'photo_1.jpg', words('-pix_fmt yuvj420p -q:v 1'), 6],
  ])(
    '%s, %s: decoded as the smooth picture it was made from, and proxies are made',
    async (size, file, codec, within) => {
      const [w, h_] = size.split('x').map(Number) as [number, number];
      // a slow ramp in every channel: subsampled chroma holds it exactly but for rounding
      const ramp = `geq=r='40+160*X/${w}':g='60+120*Y/${h_}':b='200-120*X/${w}'`;
      const toYuv = file.endsWith('.jpg')
        ? 'zscale=matrixin=gbr:rangein=full:matrix=170m:range=full'
        : 'zscale=matrixin=gbr:rangein=full:matrix=709:range=limited';
      ffmpeg(
        ...['-f', 'lavfi', '-i', `nullsrc=size=${size}:rate=24`, '-frames:v', '1'],
        // converted in 4:4:4, brought down to 4:2:0 by the other scaler
        ...[
          '-vf',
          `format=gbrp,${ramp},${toYuv},format=yuv444p16le,scale=flags=accurate_rnd+bicubic:` +
            `out_h_chr_pos=0:out_v_chr_pos=128`,
        ],
        ...(file.endsWith('.jpg') ? [] : words('-color_range tv -colorspace bt709 -color_primaries bt709')),
        ...[...codec, file],
      );
      const { frame, projectId, stored } = await imported(file);
      expect([frame.width, frame.height]).toEqual([w, h_]);
      const worst = { r: 0, g: 0, b: 0 };
      for (let y = 0; y < h_; y += 3)
        for (let x = 0; x < w; x += 3) {
          const i = y * w + x;
          const wanted = { r: 40 + (160 * x) / w, g: 60 + (120 * y) / h_, b: 200 - (120 * x) / w };
          for (const c of ['r', 'g', 'b'] as const)
            worst[c] = Math.max(worst[c], Math.abs(frame[c][i]! / 257 - wanted[c]));
        }
      for (const c of ['r', 'g', 'b'] as const) expect(worst[c], `${c} of 255`).toBeLessThanOrEqual(within);
      await until('the proxies', async () => {
        const proxy = (await h.call('getProject', { projectId })).proxies[stored.media.id];
        if (proxy?.state === 'failed') throw new Error(proxy.message ?? 'failed');
        return proxy?.state === 'done';
      });
    },
  );
});

describe('wide gamuts, through files', () => {
  it.each([
    ['display-p3', 'p3', 'smpte432', 'iec61966-2-1'],
    ['rec2020', 'rec2020', 'bt2020', 'bt2020-10'],
    ['rec2100-pq', 'rec2100pq', 'bt2020', 'smpte2084'],
    ['rec2100-hlg', 'rec2100hlg', 'bt2020', 'arib-std-b67'],
  ] as const)(
    '%s is proposed from its tags and read as colorjs.io has it',
    async (encoding, name, primaries, transfer) => {
      // a green that BT.709 cannot show
      const codes: [number, number, number] = [51 / 255, 204 / 255, 102 / 255];
      ffmpeg(
        ...words('-f lavfi -i nullsrc=size=32x32:rate=24 -frames:v 2 -vf format=gbrp,geq=r=51:g=204:b=102'),
        ...words('-c:v ffv1 -color_range pc'),
        ...['-colorspace', 'rgb', '-color_primaries', primaries, '-color_trc', transfer, `${name}.mkv`],
      );
      const { frame, stored } = await imported(`${name}.mkv`);
      expect(stored.media).toMatchObject({ primaries, proposedEncoding: encoding });
      const read = [frame.r[40]!, frame.g[40]!, frame.b[40]!].map((v) => v / 65535) as [number, number, number];
      read.forEach((v, c) => expect(v).toBeCloseTo(codes[c]!, 9));
      const light = new Color(name, codes).to('srgb-linear').coords as number[];
      // colorjs.io prints its constants of HLG to 6 decimals
      linear709FromCodes(encoding, read).forEach((v, c) => expect(v / light[c]!).toBeCloseTo(1, 4));
      expect(Math.min(...light)).toBeLessThan(0);
    },
  );
  /** An OpenEXR of one colour whose header says its chromaticities. */
  async function exrOf(rgb: readonly number[], chromaticities: readonly number[]): Promise<Buffer> {
    const [width, height] = [32, 32];
    const channels = ['R', 'G', 'B'].map((name, c) => ({ name, plane: new Float32Array(32 * 32).fill(rgb[c]!) }));
    const file = await exrFile({ width, height, channels });
    const value = Buffer.alloc(32);
    chromaticities.forEach((v, k) => value.writeFloatLE(v, 4 * k));
    const added = Buffer.concat([Buffer.from('chromaticities\0chromaticities\0\x20\0\0\0', 'latin1'), value]);
    // the table of offsets behind the header points further by what was added: two blocks of 16 lines
    const table = file.indexOf(Buffer.from('screenWindowWidth')) + 'screenWindowWidth\0float\0'.length + 8 + 1;
    for (const at of [table, table + 8]) file.writeBigUInt64LE(file.readBigUInt64LE(at) + BigInt(added.length), at);
    return Buffer.concat([file.subarray(0, 8), added, file.subarray(8)]);
  }
  it.each([
    ['aces2065-1', 'AP0', [0.7347, 0.2653, 0, 1, 0.0001, -0.077, 0.32168, 0.33767]],
    ['acescg', 'AP1', [0.713, 0.293, 0.165, 0.83, 0.128, 0.044, 0.32168, 0.33767]],
    ['linear2020', 'BT.2020', [0.708, 0.292, 0.17, 0.797, 0.131, 0.046, 0.3127, 0.329]],
    ['linear709', 'no known primaries', [0.7, 0.3, 0.2, 0.7, 0.1, 0.1, 0.3127, 0.329]],
  ] as const)(
    '%s is proposed for an OpenEXR of %s, whose light past 0 and 1 comes through',
    async (encoding, of, xy) => {
      const name = `${encoding}.exr`;
      writeFileSync(join(work, name), await exrOf([2.5, 0.25, -0.125], xy));
      const { frame, stored } = await imported(name);
      expect(stored.media.proposedEncoding).toBe(encoding);
      expect(stored.media.notes.join(' ').includes('none that is known')).toBe(of === 'no known primaries');
      expect([frame.r[7], frame.g[7], frame.b[7]]).toEqual([2.5, 0.25, -0.125]);
    },
  );
  it('primaries that are not known are refused by name, with those that are', async () => {
    ffmpeg(
      ...words('-f lavfi -i color=c=red:size=32x32:rate=24 -frames:v 2 -pix_fmt gbrp -c:v ffv1'),
      ...words('-color_range pc -colorspace rgb -color_primaries smpte431 -color_trc gamma28 dci.mkv'),
    );
    const projectId = (await h.call('createProject', {}, { name: 'DCI' })).id;
    const { status, body } = await upload(h, projectId, [join(work, 'dci.mkv')]);
    expect(status).toBe(422);
    expect(body.detail).toMatch(/smpte431.*bt709, smpte432, bt2020/);
  });
});
