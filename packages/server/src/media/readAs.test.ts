// Footage read otherwise than its file states: code values by the equations of Rec. ITU-T H.273 (8.3), fields by what
// was drawn into them.
import { execFileSync } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { ChangeId, MediaId, ProjectId, Reading, Shot } from '@mellow/contract';
import type { CodePicture } from '@mellow/core';
import { findMedia, type StoredMedia } from '../db/media.ts';
import { startHarness, until, type Harness } from '../testing/harness.ts';
import { upload } from '../testing/uploading.ts';
import { decodeFrames } from './decode.ts';
import { words } from './words.ts';

let h: Harness;
let projectId: ProjectId;
const work = mkdtempSync(join(tmpdir(), 'mellow-reading-'));
beforeAll(async () => {
  h = await startHarness({ workers: true });
  projectId = (await h.call('createProject', {}, { name: 'Reading' })).id;
});
afterAll(async () => {
  await h.close();
  rmSync(work, { recursive: true, force: true });
});

async function imported(args: string, name: string): Promise<MediaId> {
  execFileSync('ffmpeg', [...words(`-v error -y ${args}`), join(work, name)]);
  const { status, body } = await upload(h, projectId, [join(work, name)]);
  expect(status, body.detail).toBe(201);
  return body.mediaIds[0]!;
}
const read = (mediaId: MediaId, reading: Reading) => h.call('readMedia', { projectId, mediaId }, reading);
const stored = async (id: MediaId): Promise<StoredMedia> => (await findMedia(h.pool, id))!;
async function frames(id: MediaId, from = 0, to?: number): Promise<CodePicture[]> {
  const media = await stored(id);
  const all: CodePicture[] = [];
  const span = { from, to: to ?? media.media.frames - 1 };
  for await (const frame of decodeFrames(h.store, media, { span })) all.push(frame);
  return all;
}

describe('matrix and range', () => {
  /** One colour in YCbCr codes of 8 bits. */
  const [Y, CB, CR] = [120, 150, 100];
  /** Kr and Kb of H.273, table 4. */
  const WEIGHTS = { bt709: [0.2126, 0.0722], smpte170m: [0.299, 0.114], bt2020nc: [0.2627, 0.0593] } as const;
  function rgb(matrix: keyof typeof WEIGHTS, range: Reading['range']): number[] {
    const [kr, kb] = WEIGHTS[matrix];
    const y = range === 'full' ? Y / 255 : (Y - 16) / 219;
    const [cb, cr] = [CB, CR].map((c) => (c - 128) / (range === 'full' ? 255 : 224)) as [number, number];
    const r = y + 2 * (1 - kr) * cr;
    const b = y + 2 * (1 - kb) * cb;
    return [r, (y - kr * r - kb * b) / (1 - kr - kb), b];
  }
  const NOISELESS = `-f lavfi -i nullsrc=size=64x32:rate=24 -frames:v 2 -vf format=yuv444p,geq=${Y}:${CB}:${CR}`;
  let id: MediaId;
  beforeAll(async () => void (id = await imported(`${NOISELESS} -c:v ffv1`, 'unstated.mkv')));

  it.each([
    ['bt709', 'full'],
    ['smpte170m', 'limited'],
    ['bt2020nc', 'limited'],
    ['bt2020nc', 'full'],
  ] as const)('%s, %s, as H.273 has it, to a code of 16 bits', async (matrix, range) => {
    const media = await read(id, { matrix, range, isDeinterlaced: false });
    const [{ r, g, b }] = (await frames(media.id)) as [CodePicture];
    rgb(matrix, range).forEach((v, c) => expect([r, g, b][c]![100]).toBeCloseTo(v * 65535, -0.5));
  });
  it('asked for again are the same media, and as stated the first', async () => {
    const full = { matrix: 'smpte170m', range: 'full', isDeinterlaced: false } as const;
    const media = await read(id, full);
    expect(media.stated).toEqual({ matrix: 'smpte170m', range: 'limited' });
    expect((await read(id, full)).id).toBe(media.id);
    const back = await read(media.id, { ...full, range: 'limited' });
    expect([back.id, back.stated]).toEqual([id, null]);
    // what was assumed is said of the one, and no longer of the other
    expect(back.notes.join()).toContain('The YCbCr matrix is not stated');
    expect(media.notes.join()).not.toContain('is not stated');
  });
  it('put under a shot have frames of their own, and are undone like any step', async () => {
    const media = await read(id, { matrix: 'bt709', range: 'full', isDeinterlaced: false });
    const shots = async () => (await h.call('getProject', { projectId })).shots;
    const { value, revision } = (await shots()).find((s) => s.value.mediaId === id)!;
    const on: Shot = { ...value, mediaId: media.id };
    const edits = [{ kind: 'shot' as const, id: value.id, revision, value: on }];
    await h.call('change', { projectId }, { id: randomUUID() as ChangeId, label: 'Read', edits });
    await until('its frames', async () => {
      const { proxies } = await h.call('getProject', { projectId });
      return proxies[media.id]?.state === 'done';
    });
    expect((await fetch(`${h.url}/api/media/${media.id}/frames/proxy/1`)).status).toBe(200);
    await h.call('undo', { projectId }, { id: randomUUID() as ChangeId });
    expect((await shots()).find((s) => s.value.id === value.id)!.value.mediaId).toBe(id);
    // the other way stays known: redoing finds it
    expect((await h.call('getProject', { projectId })).media.map((m) => m.id)).toContain(media.id);
  });
  it.each([
    ['says nothing', ''],
    ['says so', ' -color_range tv'],
  ])('RGB of limited range that %s is widened where one says so', async (_what, tag) => {
    const rgbId = await imported(
      `-f lavfi -i nullsrc=size=64x32:rate=24 -frames:v 1 -vf format=gbrp,geq=r=16:g=126:b=235 -c:v ffv1${tag}`,
      'legal.mkv',
    );
    expect((await stored(rgbId)).media.range).toBe('full');
    const media = await read(rgbId, { matrix: 'gbr', range: 'limited', isDeinterlaced: false });
    const [{ r, g, b }] = (await frames(media.id)) as [CodePicture];
    [0, 110 / 219, 1].forEach((v, c) => expect([r, g, b][c]![100]).toBeCloseTo(v * 65535, -0.5));
  });
  it.each([
    [{ matrix: 'gbr', range: 'full', isDeinterlaced: false }, /holds no RGB: it has a YCbCr matrix/],
    [{ matrix: 'bt709', range: 'full', isDeinterlaced: true }, /is not interlaced/],
    [{ matrix: 'rec1234', range: 'full', isDeinterlaced: false }, /matrix/],
  ] as const)('%j is refused', async (reading, says) => {
    await expect(read(id, reading as never)).rejects.toThrow(says);
  });
  it('of another project’s footage are not found', async () => {
    const other = (await h.call('createProject', {}, { name: 'Other' })).id;
    const reading = { matrix: 'bt709', range: 'full', isDeinterlaced: false } as const;
    await expect(h.call('readMedia', { projectId: other, mediaId: id }, reading)).rejects.toThrow(/no media/i);
  });
});

describe('interlaced footage', () => {
  const [W, FRAMES] = [64, 8];
  /** A bar that is at 4 n in the first field of frame n, and two further in the second. */
  const bar = `if(between(X-(4*N+2*mod(Y,2)),0,7),200,60)`;
  const made = (flag: string, name: string) =>
    imported(
      `-f lavfi -i nullsrc=size=${W}x32:rate=25 -frames:v ${FRAMES} -vf format=yuv444p,geq='${bar}':128:128,${flag} ` +
        '-c:v ffv1 -color_range tv -colorspace bt709',
      name,
    );
  let id: MediaId;
  let whole: CodePicture[];
  beforeAll(async () => {
    id = await made('setfield=tff -flags +ilme+ildct -field_order tt', 'fields.mkv');
    const media = await read(id, { matrix: 'bt709', range: 'limited', isDeinterlaced: true });
    whole = await frames(media.id);
  });
  const row = ({ g }: CodePicture, y: number) => Array.from(g.subarray(y * W, (y + 1) * W));

  it('comes in as it is, and its field order is said', async () => {
    const { media } = await stored(id);
    expect([media.fields, media.isDeinterlaced]).toEqual(['top first', false]);
    expect(media.notes.join()).toContain('It is interlaced, top field first');
    const [first] = (await frames(id)) as [CodePicture];
    expect(row(first, 10)).not.toEqual(row(first, 11));
  });
  it('deinterlaced keeps the lines of the first field, and makes the others of them', async () => {
    const both = await frames(id);
    expect(whole).toHaveLength(FRAMES);
    const n = 4;
    expect(row(whole[n]!, 12)).toEqual(row(both[n]!, 12));
    const off = (y: number) =>
      row(whole[n]!, y).reduce((sum, v, x) => sum + Math.abs(v - row(both[n]!, 12)[x]!), 0) / W / 65535;
    const combed = row(both[n]!, 13).reduce((sum, v, x) => sum + Math.abs(v - row(both[n]!, 12)[x]!), 0) / W / 65535;
    expect(off(13)).toBeLessThan(combed / 3);
  });
  it('is the same decoded from its beginning and from the middle', async () => {
    const { id: deinterlaced } = await read(id, { matrix: 'bt709', range: 'limited', isDeinterlaced: true });
    expect(await frames(deinterlaced, 3, 5)).toEqual(whole.slice(3, 6));
  });
  // whether a container says so in one way or the other, the frames that ffmpeg decodes of it say the same
  it.each([
    ['tff', 'top first', 'v210 -pix_fmt yuv422p10le', 'raw.mov'],
    ['bff', 'bottom first', 'v210 -pix_fmt yuv422p10le', 'raw.mov'],
    ['tff', 'top first', 'mjpeg -pix_fmt yuvj422p', 'jpeg.mov'],
    ['bff', 'bottom first', 'mjpeg -pix_fmt yuvj422p', 'jpeg.mov'],
    ['tff', 'top first', 'ffv1', 'swapped.mkv'],
  ] as const)('of %s is taken for %s: %s', async (flag, fields, codec, name) => {
    const args = `-f lavfi -i testsrc2=size=64x32:rate=25 -frames:v 3 -vf setfield=${flag} -c:v ${codec}`;
    const { media } = await stored(await imported(`${args} -colorspace bt709`, `${flag}-${name}`));
    expect(media.fields).toBe(fields);
  });
  it('of the other order is read by its other field', async () => {
    const lower = await made('setfield=bff -flags +ilme+ildct -field_order bb', 'lower.mkv');
    const media = await read(lower, { matrix: 'bt709', range: 'limited', isDeinterlaced: true });
    expect(media.fields).toBe('bottom first');
    const [both, one] = [await frames(lower), await frames(media.id)];
    expect(row(one[4]!, 13)).toEqual(row(both[4]!, 13));
    expect(row(one[4]!, 12)).not.toEqual(row(both[4]!, 12));
  });
});
