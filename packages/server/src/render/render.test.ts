import { execFileSync } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { existsSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { stillFrames, type ChangeId, type Delivery, type Edit, type Preset } from '@mellow/contract';
import { linearFromCode, NEUTRAL_BALANCE } from '@mellow/core';
import { shifted } from '../../../core/src/testing/shifted.ts';
import { deliveryFolder } from '../media/store.ts';
import { boxed } from '../testing/boxed.ts';
import { startHarness, until, type Harness } from '../testing/harness.ts';
import { words } from '../media/words.ts';

// odd on purpose: 4:2:0 review files and planar pipes must cope
const [W, H, FRAMES] = [161, 91, 12];
const shift = { exposureStops: 0.2, hueDeg: 80, saturation: 0.9, density: 0.05 };
let h: Harness;
let projectId: string;
let shotId: string;
let colourwayId: string;
const work = mkdtempSync(join(tmpdir(), 'mellow-render-'));

const raw = (file: string, ...args: string[]) =>
  execFileSync('ffmpeg', ['-v', 'error', '-i', file, ...args, '-f', 'rawvideo', '-pix_fmt', 'rgb48le', '-'], {
    maxBuffer: 1e8,
  });
const codesOf = (bytes: Buffer) =>
  new Uint16Array(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.length));

beforeAll(async () => {
  h = await startHarness({ workers: true });
  execFileSync('ffmpeg', [
    ...words('-v error -y -f lavfi -i testsrc2=size=640x360:rate=24 -frames:v'),
    String(FRAMES),
    '-vf',
    `format=gbrp16le,scale=${W}:${H},setsar=1`,
    '-c:v',
    'ffv1',
    '-metadata',
    'timecode=10:00:00:00',
    join(work, 'source.mkv'),
  ]);
  const box = { cx: 80, cy: 45, width: 60, height: 30 };
  ({ projectId, shotId, colourwayId } = await boxed(h, 'Render', join(work, 'source.mkv'), box, shift));
});
afterAll(async () => {
  await h.close();
  rmSync(work, { recursive: true, force: true });
});

async function asRequested(preset: Preset): Promise<Delivery> {
  const [asked] = await h.call(
    'render',
    { projectId },
    { shotIds: [shotId as never], colourwayIds: [colourwayId as never], preset },
  );
  return asked!;
}
async function finished({ id, preset }: Delivery): Promise<{ delivery: Delivery; file: string }> {
  const delivery = await until(`the ${preset} render`, async () => {
    const now = (await h.call('listDeliveries', { projectId })).find((d) => d.id === id)!;
    if (now.job.state === 'failed') throw new Error(now.job.message ?? 'failed');
    return now.job.state === 'done' && now;
  });
  const response = await fetch(`${h.url}/api/deliveries/${delivery.id}/file`);
  expect(response.status).toBe(200);
  const file = join(work, delivery.fileName);
  writeFileSync(file, Buffer.from(await response.arrayBuffer()));
  return { delivery, file };
}
const rendered = async (preset: Preset) => finished(await asRequested(preset));
async function turnTo(hueDeg: number, revision: number): Promise<void> {
  const { value } = (await h.call('getProject', { projectId })).recipes[0]!;
  const edit: Edit = { kind: 'recipe', id: value.id, revision, value: { ...value, shift: { ...value.shift, hueDeg } } };
  await h.call('change', { projectId }, { id: randomUUID() as ChangeId, label: 'Turn', edits: [edit] });
}

/** Names of the files in a zip, from its central directory (PKWARE APPNOTE 4.3.12). */
function namesInZip(bytes: Buffer): string[] {
  const names: string[] = [];
  for (let at = bytes.indexOf('PK\u0001\u0002'); at >= 0; at = bytes.indexOf('PK\u0001\u0002', at + 4))
    names.push(bytes.toString('utf8', at + 46, at + 46 + bytes.readUInt16LE(at + 28)));
  return names;
}

/** Outside the box every code is the source's; inside it is the formula's, to a 16-bit code. */
function checkLossless(source: Uint16Array, result: Uint16Array): void {
  expect(result.length).toBe(source.length);
  let inside = 0;
  for (let p = 0; p < source.length / 3; p++) {
    const [x, y] = [p % W, Math.floor((p % (W * H)) / W)];
    const boxed = x >= 50 && x < 110 && y >= 30 && y < 60;
    const before = [source[3 * p]!, source[3 * p + 1]!, source[3 * p + 2]!];
    const after = [result[3 * p]!, result[3 * p + 1]!, result[3 * p + 2]!];
    if (!boxed) {
      if (before.some((c, i) => c !== after[i]))
        throw new Error(`pixel ${x}, ${y} outside the matte changed from ${before.join()} to ${after.join()}`);
      continue;
    }
    if (p % 17 !== 0) continue;
    inside++;
    const wanted = shifted(shift, before.map((c) => linearFromCode('rec709', c / 65535)) as [number, number, number]);
    wanted.forEach((light, i) => {
      const code = Math.min(Math.max(light, 0), 1) ** (1 / 2.4) * 65535;
      // below 1 % of white the display power law is so steep that single-precision light is worth several codes
      expect(Math.abs(after[i]! - code)).toBeLessThanOrEqual(light < 0.01 ? 64 : 1);
    });
  }
  expect(inside).toBeGreaterThan(500);
}

describe('a render', () => {
  it('as FFV1 is exact outside the matte and the formula inside, with rate and timecode', async () => {
    const { file, delivery } = await rendered('ffv1');
    checkLossless(codesOf(raw(join(work, 'source.mkv'))), codesOf(raw(file)));
    expect(delivery.bytes).toBe(readFileSync(file).length);
    const probe = execFileSync(
      'ffprobe',
      [
        ...words('-v error -show_entries stream=r_frame_rate,width,height:format_tags=TIMECODE,timecode -of'),
        ...words('default=nk=1:nw=1'),
        file,
      ],
      { encoding: 'utf8' },
    );
    expect(probe.trim().split('\n')).toEqual(expect.arrayContaining(['161', '91', '24/1', '10:00:00:00']));
  });
  it('leaves small pictures of the file, evenly along the shot', async () => {
    const { delivery, file } = await rendered('ffv1');
    const frames = stillFrames(FRAMES);
    const size = W * H * 3;
    const codes = codesOf(raw(file));
    const stills = await Promise.all(
      frames.map((_, n) => fetch(`${h.url}/api/deliveries/${delivery.id}/stills/${n}.png`)),
    );
    for (const [n, answer] of stills.entries()) {
      expect(answer.headers.get('content-type')).toBe('image/png');
      const still = join(work, `still ${n}.png`);
      writeFileSync(still, Buffer.from(await answer.arrayBuffer()));
      const shown = execFileSync('ffmpeg', [...words('-v error -i'), still, ...words('-f rawvideo -pix_fmt rgb24 -')]);
      // smaller than the width of a still: pixel by pixel, in 8 bits
      const wanted = codes.subarray(frames[n]! * size, (frames[n]! + 1) * size);
      expect(shown.length).toBe(size);
      expect(Math.max(...wanted.map((code, i) => Math.abs(code / 257 - shown[i]!)))).toBeLessThan(1.01);
    }
    const none = await fetch(`${h.url}/api/deliveries/${delivery.id}/stills/${frames.length}.png`);
    expect([none.status, (await fetch(`${h.url}/api/deliveries/${delivery.id}/stills/x.png`)).status]).toEqual([
      404, 404,
    ]);
  });
  it('as PNG is a zip of one 16-bit file a frame, numbered from 0', async () => {
    const { delivery, file } = await rendered('png16');
    const frames = join(deliveryFolder(h.store, delivery.id), 'frames');
    const name = delivery.fileName.replace(/\.zip$/, '');
    checkLossless(codesOf(raw(join(work, 'source.mkv'))), codesOf(raw(join(frames, `${name}.%06d.png`))));
    const numbered = Array.from({ length: FRAMES }, (_, n) => `${name}.${String(n).padStart(6, '0')}.png`);
    expect(namesInZip(readFileSync(file)).sort()).toEqual(numbered);
  });
  it('as H.264 is an even-sized file that looks like the lossless one', async () => {
    const [{ file }, lossless] = [await rendered('h264'), await rendered('ffv1')];
    const review = codesOf(
      raw(
        file,
        '-vf',
        `zscale=matrixin=709:rangein=limited:matrix=gbr:range=full:primariesin=709:primaries=709:` +
          `transferin=709:transfer=709,format=gbrp16le,crop=${W}:${H}:0:0`,
      ),
    );
    const exact = codesOf(raw(lossless.file));
    expect(review.length).toBe(exact.length);
    // 4:2:0 and CRF 16 blur single pixels of this pattern, but no channel's mean may move: a wrong matrix or range
    // would
    for (const channel of [0, 1, 2]) {
      const mean = (codes: Uint16Array) =>
        codes.reduce((sum, c, i) => sum + (i % 3 === channel ? c : 0), 0) / (codes.length / 3);
      expect(Math.abs(mean(review) - mean(exact)) / 257).toBeLessThan(1.5);
    }
  });
  it('keeps the recipe it was asked with, and is not to be had before it is done', async () => {
    await h.pause();
    const asked = await asRequested('ffv1');
    const { revision, value } = (await h.call('getProject', { projectId })).recipes[0]!;
    await turnTo(200, revision);
    const early = await fetch(`${h.url}/api/deliveries/${asked.id}/file`);
    expect([early.status, ((await early.json()) as { code: string }).code]).toEqual([409, 'conflict']);
    await h.resume();
    const { file } = await finished(asked);
    // not the recipe of the edit made since
    checkLossless(codesOf(raw(join(work, 'source.mkv'))), codesOf(raw(file)));
    await turnTo(value.shift.hueDeg, revision + 1);
  });
  it('that is cancelled while it waits leaves no file, and can be started again', async () => {
    await h.pause();
    const asked = await asRequested('ffv1');
    expect((await h.call('cancelJob', { jobId: asked.job.id })).state).toBe('cancelled');
    expect((await h.problem('cancelJob', { jobId: randomUUID() })).status).toBe(404);
    await h.resume();
    await rendered('ffv1');
    expect(existsSync(deliveryFolder(h.store, asked.id))).toBe(false);
    await h.call('retryJob', { jobId: asked.job.id });
    await finished(asked);
    expect(existsSync(deliveryFolder(h.store, asked.id))).toBe(true);
    expect((await h.problem('retryJob', { jobId: asked.job.id })).code).toBe('conflict');
  });
  it('in a format that takes no picture so small is refused, by name and size', async () => {
    const asked = { shotIds: [shotId], colourwayIds: [colourwayId], preset: 'vc3' };
    const { status, detail } = await h.problem('render', { projectId }, asked);
    expect([status, detail]).toEqual([409, expect.stringContaining('from 256 × 120; source is of 161 × 91')]);
  });
  it('is called after a pattern, counts its versions, and refuses a word that it does not know', async () => {
    const ask = (namePattern: string, preset: Preset) =>
      h.call('render', { projectId }, { shotIds: [shotId], colourwayIds: [colourwayId], preset, namePattern } as never);
    const date = new Date().toISOString().slice(0, 10);
    const names = [];
    for (const preset of ['png16', 'png16', 'h264'] as const)
      names.push((await ask('{project}_{shot} v{n} {date}', preset))[0]!.fileName);
    const first = Number(/-v(\d+)-/.exec(names[0]!)![1]);
    expect(names.slice(0, 2)).toEqual([
      `Render_source-v${first}-${date}.zip`,
      `Render_source-v${first + 1}-${date}.zip`,
    ]);
    expect(names[2]).toMatch(/^Render_source-v\d+-.*\.mp4$/);
    const asked = { shotIds: [shotId], colourwayIds: [colourwayId], preset: 'ffv1', namePattern: '{shot}_{color}' };
    const { status, errors } = await h.problem('render', { projectId }, asked);
    expect([status, errors?.[0]]).toEqual([
      400,
      { path: 'namePattern', message: '“{color}” is none of {project}, {shot}, {colourway}, {n}, {date}.' },
    ]);
  });
  it('in several colourways is one each, all or none; mattes are the same in all', async () => {
    const other = randomUUID();
    const made = {
      kind: 'colourway',
      id: other,
      revision: null,
      value: { id: other, projectId, name: 'Plum', position: 9 },
    };
    await h.call('change', { projectId }, { id: randomUUID() as ChangeId, label: 'Plum', edits: [made as never] });
    const ask = (preset: Preset, ...colourwayIds: string[]) => ({ shotIds: [shotId], colourwayIds, preset }) as never;
    const both = await h.call('render', { projectId }, ask('h264', colourwayId, other));
    expect(both.map((d) => d.fileName)).toEqual([expect.stringMatching(/^source_.+\.mp4$/), 'source_Plum.mp4']);
    expect(await h.call('render', { projectId }, ask('mattePng16', colourwayId, other))).toHaveLength(1);
    const before = (await h.call('listDeliveries', { projectId })).length;
    expect((await h.problem('render', { projectId }, ask('h264', other, randomUUID()))).code).toBe('not-found');
    expect((await h.call('listDeliveries', { projectId })).length).toBe(before);
  });
  it('with handles has frames at either end, as far as the footage goes', async () => {
    const { revision, value } = (await h.call('getProject', { projectId })).shots[0]!;
    const cut = { ...value, span: { from: 3, to: 6 } };
    const put = (edit: object) =>
      h.call('change', { projectId }, { id: randomUUID() as ChangeId, label: 'Cut', edits: [edit] } as never);
    await put({ kind: 'shot', id: value.id, revision, value: cut });
    const ask = { shotIds: [shotId], colourwayIds: [colourwayId], preset: 'png16', handles: 4 } as never;
    const [asked] = await h.call('render', { projectId }, ask);
    expect(asked!.job.total).toBe(11);
    await put({ kind: 'shot', id: value.id, revision: revision + 1, value });
  });
  it('goes into the render folder too, where that is wanted: the file, or the frames', async () => {
    const of = { shotIds: [shotId as never], colourwayIds: [colourwayId as never], namePattern: '{shot}_put' };
    for (const preset of ['ffv1', 'png16'] as const) {
      const [asked] = await h.call('render', { projectId }, { ...of, preset, toFolder: true });
      const { delivery, file } = await finished(asked!);
      const path = join(h.store.outbox, delivery.placed!);
      if (preset === 'ffv1') expect(readFileSync(path)).toEqual(readFileSync(file));
      else expect(readdirSync(path)).toHaveLength(FRAMES);
    }
    const [asked] = await h.call('render', { projectId }, { ...of, preset: 'ffv1' });
    expect((await finished(asked!)).delivery.placed).toBeNull();
    expect(readdirSync(join(h.store.outbox, 'Render')).sort()).toEqual(['source_put', 'source_put.mkv']);
  });
  it('is left out where only what has changed is wanted, and nothing has', async () => {
    const ask = { shotIds: [shotId], colourwayIds: [colourwayId], preset: 'dpx12', onlyChanged: true } as never;
    const { revision } = (await h.call('getProject', { projectId })).recipes[0]!;
    const [first] = await h.call('render', { projectId }, ask);
    expect(await h.problem('render', { projectId }, ask)).toMatchObject({
      code: 'conflict',
      detail: 'All of this is rendered already, as it is now.',
    });
    await turnTo(33, revision);
    const [second] = await h.call('render', { projectId }, ask);
    expect(second!.id).not.toBe(first!.id);
    // as it was before: what was rendered first is that
    await h.call('undo', { projectId }, { id: randomUUID() as ChangeId });
    expect((await h.problem('render', { projectId }, ask)).code).toBe('conflict');
  });
  it('with words burnt in is refused where the format is not for review', async () => {
    const ask = { shotIds: [shotId], colourwayIds: [colourwayId], preset: 'ffv1', burnIn: true };
    const { status, detail } = await h.problem('render', { projectId }, ask);
    expect([status, detail]).toEqual([409, expect.stringContaining('it is not for review')]);
  });
  it('of unknown shots or colourways is refused and queues nothing', async () => {
    const before = (await h.call('listDeliveries', { projectId })).length;
    expect(
      (
        await h.problem(
          'render',
          { projectId },
          { shotIds: [shotId, randomUUID()], colourwayIds: [colourwayId], preset: 'ffv1' },
        )
      ).code,
    ).toBe('not-found');
    expect(
      (await h.problem('render', { projectId }, { shotIds: [shotId], colourwayIds: [colourwayId], preset: 'gif' }))
        .status,
    ).toBe(400);
    expect((await h.call('listDeliveries', { projectId })).length).toBe(before);
  });
});

it('measures the sighting in the background and says so with a server-sent event', async () => {
  const measured = await until('the measurement', async () => {
    const [m] = await h.call('listMeasurements', { projectId });
    return m?.fresh && m;
  });
  expect(measured.measuredFrames).toBe(FRAMES);
  const abort = new AbortController();
  const stream = await fetch(`${h.url}/api/projects/${projectId}/events`, { signal: abort.signal });
  const reader = stream.body!.pipeThrough(new TextDecoderStream()).getReader();
  // without workers, or a quick one has measured again before the question is asked
  await h.pause();
  await turnTo(10, (await h.call('getProject', { projectId })).recipes[0]!.revision);
  expect((await h.call('listMeasurements', { projectId }))[0]!.fresh).toBe(false);
  await h.resume();
  let heard = '';
  while (!heard.includes('event: measured')) heard += (await reader.read()).value ?? '';
  expect(heard).toContain('event: change');
  abort.abort();
  expect((await h.call('listMeasurements', { projectId }))[0]!.fresh).toBe(true);
});

it('says how much of the piece is selected, and what the recolour has clipped', async () => {
  const { frames } = await until('the measurement', async () => {
    const [m] = await h.call('listMeasurements', { projectId });
    return m?.fresh && m;
  });
  for (const { coverage, clippedShare, resultClippedShare } of frames)
    for (const share of [coverage, clippedShare, resultClippedShare]) {
      expect(share).toBeGreaterThanOrEqual(0);
      expect(share).toBeLessThanOrEqual(1);
    }
  const { revision, value } = (await h.call('getProject', { projectId })).recipes[0]!;
  const blinding = { ...value, shift: { ...value.shift, exposureStops: 6 } };
  const edits: Edit[] = [{ kind: 'recipe', id: value.id, revision, value: blinding }];
  await h.call('change', { projectId }, { id: randomUUID() as ChangeId, label: 'Six stops', edits });
  const after = await until('the measurement', async () => {
    const [m] = await h.call('listMeasurements', { projectId });
    return m?.fresh && m;
  });
  // six stops up, nearly all of a test card is past white, though the source is as it was
  expect(after.frames[0]!.resultClippedShare).toBeGreaterThan(0.8);
  expect(after.frames[0]!.clippedShare).toBe(frames[0]!.clippedShare);
});
it('measures the frames that a shot shows, and those again that come when it is cut', async () => {
  await until('the measurement', async () => (await h.call('listMeasurements', { projectId }))[0]?.fresh);
  const cutTo = async (span: { from: number; to: number } | null) => {
    const { revision, value } = (await h.call('getProject', { projectId })).shots[0]!;
    const edits: Edit[] = [{ kind: 'shot', id: value.id, revision, value: { ...value, span } }];
    await h.call('change', { projectId }, { id: randomUUID() as ChangeId, label: 'Cut', edits });
    return until('the measurement', async () => {
      const [m] = await h.call('listMeasurements', { projectId });
      return m?.fresh && m;
    });
  };
  const { frames, measuredFrames } = await cutTo({ from: 3, to: 6 });
  expect([frames.map((f) => f.frame), measuredFrames]).toEqual([[3, 4, 5, 6], 4]);
  expect((await cutTo(null)).measuredFrames).toBe(FRAMES);
});
it('goes stale with the shot’s balance', async () => {
  const { revision, value } = (await h.call('getProject', { projectId })).shots[0]!;
  await until('the measurement', async () => (await h.call('listMeasurements', { projectId }))[0]?.fresh);
  await h.pause();
  const balance = { ...NEUTRAL_BALANCE, exposureStops: 0.5 };
  const edits: Edit[] = [{ kind: 'shot', id: value.id, revision, value: { ...value, balance } }];
  await h.call('change', { projectId }, { id: randomUUID() as ChangeId, label: 'Balance', edits });
  expect((await h.call('listMeasurements', { projectId }))[0]!.fresh).toBe(false);
  await h.resume();
});
