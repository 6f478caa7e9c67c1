// What comes in and what does not: every file stands alone, and what is refused says why.
import { execFileSync } from 'node:child_process';
import { copyFileSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { startHarness, type Harness } from '../testing/harness.ts';
import { upload, type Uploaded } from '../testing/uploading.ts';
import { nearestStandardRate } from './timing.ts';
import { words } from './words.ts';

let h: Harness;
const work = mkdtempSync(join(tmpdir(), 'mellow-alone-'));
const at = (name: string) => join(work, name);
const ffmpeg = (...args: string[]) => execFileSync('ffmpeg', ['-v', 'error', '-y', ...args], { cwd: work });
const testCard = (size: string, frames: number, ...args: string[]) =>
  ffmpeg('-f', 'lavfi', '-i', `testsrc2=size=${size}:rate=24`, '-frames:v', String(frames), ...args);
beforeAll(async () => {
  h = await startHarness();
  testCard('64x64', 6, ...words('-c:v libx264 -pix_fmt yuv420p good.mp4'));
  writeFileSync(at('bad.mp4'), 'this is not a film');
});
afterAll(async () => {
  await h.close();
  rmSync(work, { recursive: true, force: true });
});

async function sent(files: Parameters<typeof upload>[2], fields: Record<string, string> = {}) {
  const projectId = (await h.call('createProject', {}, { name: 'Drop' })).id;
  const answer = await upload(h, projectId, files, fields);
  return { ...answer, document: await h.call('getProject', { projectId }) };
}
const reasons = ({ body }: Uploaded) => (body.refused ?? []).map((r) => [r.name, r.reason] as const);
const truncated = (name: string, as: string, share: number) => {
  const bytes = readFileSync(at(name));
  writeFileSync(at(as), bytes.subarray(0, Math.floor(bytes.length * share)));
};

describe('a drop of several files', () => {
  it('brings the good ones in and lists the others with their reasons', async () => {
    writeFileSync(at('notes.txt'), 'x');
    const answer = await sent([at('good.mp4'), at('bad.mp4'), at('notes.txt')]);
    expect(answer.status).toBe(201);
    expect(answer.document.shots.map((s) => s.value.name)).toEqual(['good']);
    expect(reasons(answer).map(([name]) => name)).toEqual(['notes.txt', 'bad.mp4']);
    expect(reasons(answer)[0]![1]).toContain('neither a video nor an image');
    expect(reasons(answer)[1]![1]).toContain('cannot be read');
  });
  it('is refused as a whole only when nothing of it is any good, and says of each file why', async () => {
    const answer = await sent([at('bad.mp4'), at('notes.txt')]);
    expect([answer.status, answer.body.code]).toEqual([422, 'refused-media']);
    expect(reasons(answer).map(([name]) => name)).toEqual(['notes.txt', 'bad.mp4']);
    expect(answer.document.shots).toEqual([]);
  });
  it('keeps videos that are named alike apart', async () => {
    testCard('64x64', 9, ...words('-c:v libx264 -pix_fmt yuv420p other.mp4'));
    const answer = await sent([
      [at('good.mp4'), 'clip.mp4'],
      [at('other.mp4'), 'clip.mp4'],
    ]);
    expect(answer.status).toBe(201);
    expect(answer.document.media.map((m) => m.frames).sort()).toEqual([6, 9]);
  });
  it('refuses numbered images of which two are named alike, and lets the rest in', async () => {
    testCard('64x64', 3, 'n_%02d.png');
    const answer = await sent([at('n_01.png'), at('n_02.png'), [at('n_03.png'), 'n_02.png'], at('good.mp4')]);
    expect(reasons(answer)).toEqual([['n_02.png', 'Two files are called “n_02.png”.']]);
    expect(answer.document.shots.map((s) => s.value.name)).toEqual(['good']);
  });
  it('takes names in any script, up to 255 bytes and over', async () => {
    const long = `${'長い名前'.repeat(30)}.mp4`;
    testCard('64x64', 7, ...words('-c:v libx264 -pix_fmt yuv420p seven.mp4'));
    const answer = await sent([[at('seven.mp4'), long]]);
    expect(answer.status, answer.body.detail).toBe(201);
    expect(answer.document.media[0]!.name).toBe(long);
  });
});

describe('an image that breaks off', () => {
  it.each([
    ['jpg', ['-q:v', '2'], [0.3, 0.6, 0.95]],
    ['exr', ['-pix_fmt', 'gbrpf32le', '-compression', 'none'], [0.02, 0.6, 0.99]],
    ['exr', ['-pix_fmt', 'gbrpf32le', '-compression', 'zip16'], [0.02, 0.6, 0.99]],
    ['png', [], [0.6, 0.99]],
    ['tif', [], [0.6, 0.99]],
    ['dpx', ['-pix_fmt', 'gbrp10be'], [0.6, 0.99]],
  ])('%s %j is refused, whole it is taken', async (extension, args, shares) => {
    testCard('320x180', 1, ...args, `whole_1.${extension}`);
    expect((await sent([at(`whole_1.${extension}`)])).status).toBe(201);
    for (const share of shares) {
      truncated(`whole_1.${extension}`, `part_1.${extension}`, share);
      const answer = await sent([at(`part_1.${extension}`)]);
      expect([share, answer.status]).toEqual([share, 422]);
      expect(answer.body.detail).toMatch(/breaks off|cannot be read|(cannot|can) be decoded/);
    }
  });
});

it('refuses a sequence whose pictures are not of one size or kind, naming the first that differs', async () => {
  testCard('64x48', 4, 'mixed_%02d.png');
  testCard('32x24', 1, ...words('-start_number 3 mixed_%02d.png'));
  const files = [1, 2, 3, 4].map((n) => at(`mixed_0${n}.png`));
  const answer = await sent(files);
  expect(answer.status).toBe(422);
  expect(answer.body.detail).toMatch(/“mixed_03\.png” is 32 × 24 \S+, the first is 64 × 48/);
  testCard('64x48', 1, ...words('-pix_fmt rgb48be -start_number 3 mixed_%02d.png'));
  expect((await sent(files)).body.detail).toContain('“mixed_03.png” is 64 × 48 rgb48be');
});

describe('frames that come unevenly', () => {
  it('are refused with an offer, and taken one by one when it is accepted', async () => {
    const varying = "select='not(eq(n\\,5)+eq(n\\,6))'";
    testCard('64x64', 14, '-vf', varying, ...words('-fps_mode vfr -c:v libx264 -pix_fmt yuv420p varying.mp4'));
    const refused = await sent([at('varying.mp4')]);
    expect(refused.status).toBe(422);
    expect(refused.body.refused![0]).toMatchObject({ offer: { timing: 'frame by frame', fps: 24000 / 1001 } });
    expect(refused.body.detail).toContain('its frame rate varies');
    const taken = await sent([at('varying.mp4')], { timing: 'frame by frame' });
    expect(taken.status, taken.body.detail).toBe(201);
    // two of sixteen are missing: some 21 a second
    expect(taken.document.media[0]).toMatchObject({ frames: 14, fps: { num: 24000, den: 1001 } });
    expect(taken.document.media[0]!.notes.join(' ')).toContain('Its timestamps are uneven');
  });
  it('jitter about a rate counts as that rate', async () => {
    // ± 6 ms about 24 fps, as a screen recorder writes it
    const jitter = "setpts='PTS+(mod(N*7\\,5)-2)*0.003/TB'";
    testCard(
      '64x64',
      240,
      '-vf',
      `settb=1/1000,${jitter}`,
      ...words('-fps_mode passthrough -enc_time_base 1/1000 -c:v ffv1 jitter.mkv'),
    );
    expect((await sent([at('jitter.mkv')])).body.refused![0]!.offer).toEqual({ timing: 'frame by frame', fps: 24 });
    const taken = await sent([at('jitter.mkv')], { timing: 'frame by frame' });
    expect(taken.document.media[0]).toMatchObject({ frames: 240, fps: { num: 24, den: 1 } });
  });
  it('an even video stays as it is when asked for frame by frame', async () => {
    const taken = await sent([at('good.mp4')], { timing: 'frame by frame' });
    expect(taken.document.media[0]!.notes.join(' ')).not.toContain('uneven');
  });
  it.each([
    [23.9, 24000 / 1001],
    [24.2, 24],
    [26, 25],
    [29.99, 30],
    [59.9, 60000 / 1001],
    [7, 24000 / 1001],
  ])('%f frames a second are nearest to %f', (mean, wanted) => {
    const { num, den } = nearestStandardRate(mean);
    expect(num / den).toBeCloseTo(wanted, 9);
  });
});

it('says at import where sound is not carried: in a container that does not say where its frames lie', async () => {
  ffmpeg(
    ...words('-f lavfi -i testsrc2=size=64x64:rate=24 -f lavfi -i sine=d=1 -frames:v 12 -shortest'),
    ...words('-c:v libx264 -pix_fmt yuv420p -c:a aac loud.mp4'),
  );
  ffmpeg(...words('-i loud.mp4 -c copy loud.ts'));
  const notes = async (name: string) => (await sent([at(name)])).document.media[0]!.notes.join(' ');
  expect(await notes('loud.ts')).toContain('sound is not carried');
  expect(await notes('loud.mp4')).not.toContain('sound');
  expect(await notes('good.mp4')).not.toContain('sound');
});

it('brings the good ones of the media folder in and lists the others', async () => {
  mkdirSync(join(h.store.inbox, 'day'), { recursive: true });
  copyFileSync(at('good.mp4'), join(h.store.inbox, 'day', 'good.mp4'));
  copyFileSync(at('bad.mp4'), join(h.store.inbox, 'day', 'bad.mp4'));
  const projectId = (await h.call('createProject', {}, { name: 'Folder' })).id;
  const answer = await h.call('importFromFolder', { projectId }, { paths: ['day/bad.mp4', 'day/good.mp4'] });
  expect(answer.refused.map((r) => r.name)).toEqual(['bad.mp4']);
  expect(answer.shotIds).toHaveLength(1);
});
