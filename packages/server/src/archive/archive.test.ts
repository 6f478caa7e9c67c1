// A project saved as a zip and opened in another installation, and zips that are not what they say.
import { execFileSync } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { createWriteStream, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { finished } from 'node:stream/promises';
import { ZipArchive } from 'archiver';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import {
  carryRunsOf,
  type ChangeId,
  type CubeFile,
  type Edit,
  type OpenedArchive,
  type ProjectDocument,
} from '@mellow/contract';
import { bytesOfMask, cubeOf, cubeText } from '@mellow/core';
import { insertCarryRun, saveCarried } from '../db/carryRuns.ts';
import { insertRun, saveFrames, saveStop } from '../db/trackRuns.ts';
import { Refused } from '../errors.ts';
import { words } from '../media/words.ts';
import { boxed, type Boxed } from '../testing/boxed.ts';
import { startHarness, type Harness } from '../testing/harness.ts';
import { renderedFile } from '../testing/rendering.ts';
import { upload } from '../testing/uploading.ts';
import { readArchive } from './readArchive.ts';
import { cubesIn } from './writeArchive.ts';

const work = mkdtempSync(join(tmpdir(), 'mellow-archive-'));
const file = (name: string) => join(work, name);
let here: Harness;
let there: Harness;
const carryId = randomUUID();
/** What a pass could have found on a frame of 96 × 64: some rows of it, according to the frame. */
const maskOfFrame = (frame: number) =>
  bytesOfMask({
    width: 96,
    height: 64,
    inside: new Uint8Array(96 * 64).fill(1, 96 * 10 * frame, 96 * 10 * frame + 400),
  });
let own: Boxed;

async function saved(h: Harness, projectId: string, name: string, footage = 'included'): Promise<string> {
  const answer = await fetch(`${h.url}/api/projects/${projectId}/archive?footage=${footage}`);
  expect([answer.status, answer.headers.get('content-type')]).toEqual([200, 'application/zip']);
  writeFileSync(file(name), Buffer.from(await answer.arrayBuffer()));
  return file(name);
}
async function opened(h: Harness, path: string): Promise<{ status: number; body: OpenedArchive & { detail: string } }> {
  const form = new FormData();
  form.append('files', new Blob([readFileSync(path)]), 'project.zip');
  const answer = await fetch(`${h.url}/api/archives`, { method: 'POST', body: form, headers: { connection: 'close' } });
  return { status: answer.status, body: (await answer.json()) as OpenedArchive & { detail: string } };
}
/** A document with ids told by where they first stand, so that two can be compared. */
function withoutIds({ proxies: _proxies, ...document }: ProjectDocument): unknown {
  const seen = new Map<string, string>();
  const text = JSON.stringify(document).replaceAll(/[0-9a-f]{8}(?:-[0-9a-f]{4}){3}-[0-9a-f]{12}/g, (id) => {
    if (!seen.has(id)) seen.set(id, `id ${seen.size}`);
    return seen.get(id)!;
  });
  return JSON.parse(text);
}
async function change(h: Harness, projectId: string, label: string, ...edits: Edit[]): Promise<void> {
  await h.call('change', { projectId }, { id: randomUUID() as ChangeId, label, edits });
}
/** The hash of each frame of a lossless render. */
async function frames(h: Harness, projectId: string): Promise<string> {
  const { shots, colourways } = await h.call('getProject', { projectId });
  const of = { shotIds: [shots[0]!.value.id], colourwayIds: [colourways[0]!.value.id] };
  const path = await renderedFile(h, projectId, { ...of, preset: 'ffv1' }, work);
  return execFileSync('ffmpeg', [...words('-v error -i'), path, ...words('-f framemd5 -')], { encoding: 'utf8' });
}

beforeAll(async () => {
  here = await startHarness({ workers: true });
  there = await startHarness({ workers: true });
  execFileSync('ffmpeg', [
    ...words('-v error -y -f lavfi -i testsrc2=size=96x64:rate=25 -frames:v 5 -c:v ffv1'),
    file('card.mkv'),
  ]);
  execFileSync('ffmpeg', [
    ...words('-v error -y -f lavfi -i testsrc=size=96x64:rate=25 -frames:v 3 -start_number 8'),
    file('still_%02d.png'),
  ]);
  const shift = { exposureStops: 0, hueDeg: 40, saturation: 1, density: 0 };
  own = await boxed(here, 'Spring “Spot”', file('card.mkv'), { cx: 40, cy: 30, width: 30, height: 20 }, shift);
  const { projectId } = own;
  await upload(here, projectId, ['still_08.png', 'still_09.png', 'still_10.png'].map(file), { fps: '23.976' });
  const runId = randomUUID();
  await insertRun(here.pool, runId, projectId);
  const motion = [1, 0, 2, 0, 1, 3, 0, 0, 1] as const;
  await saveFrames(here.pool, runId, [{ frame: 1, motion: [...motion], confidence: 0.9 }]);
  await saveStop(here.pool, runId, { frame: 2, reason: 'covered' });
  const document = await here.call('getProject', { projectId });
  const { value, revision } = document.recipes[0]!;
  const track = {
    id: randomUUID(),
    projectId: value.projectId,
    shotId: own.shotId,
    name: 'Box',
    referenceFrame: 0,
    region: { form: 'rectangle', cx: 40, cy: 30, width: 30, height: 20, turnDeg: 0 },
    freedom: { move: true, turn: false, scale: false, shear: false, perspective: false },
    holdOuts: [],
    manual: [],
    runs: [{ id: runId, from: 0, to: 4, first: 0, last: 4 }],
  };
  const plum = { id: randomUUID(), projectId: value.projectId, name: 'Plum', position: 1 };
  await insertCarryRun(here.pool, { id: carryId, projectId: projectId, isBackward: true });
  for (const frame of [3, 2])
    await saveCarried(here.pool, carryId, { frame, mask: maskOfFrame(frame), certainty: frame / 4 });
  const isolated = document.sightings[0]!;
  const scribble = {
    id: randomUUID(),
    name: 'Scribble 1',
    on: true,
    mode: 'without',
    invert: false,
    strength: 1,
    kind: 'scribble',
    strokes: [{ sign: 'in', widthPx: 4, points: [[40, 30]], frame: 4 }],
    carried: [{ id: carryId, from: 4, to: 0, strokes: 'x' }],
  };
  const withScribble = { ...isolated.value, layers: [...isolated.value.layers, scribble as never] };
  await change(here, projectId, 'A carried scribble', {
    kind: 'sighting',
    id: isolated.value.id,
    revision: isolated.revision,
    value: withScribble,
  });
  await change(
    here,
    projectId,
    'A track and a colourway',
    { kind: 'track', id: track.id, revision: null, value: track as never },
    { kind: 'colourway', id: plum.id, revision: null, value: plum as never },
  );
  await change(here, projectId, 'No colourway', { kind: 'colourway', id: plum.id, revision: 1, value: null });
  const turned = { ...value, shift: { ...value.shift, hueDeg: 75 } };
  await change(here, projectId, 'Turn further', { kind: 'recipe', id: value.id, revision, value: turned });
});
afterAll(async () => {
  await Promise.all([here.close(), there.close()]);
  rmSync(work, { recursive: true, force: true });
});

describe('a project that is saved', () => {
  it('is the same in another installation: document, history, and every code of a render', async () => {
    const path = await saved(here, own.projectId, 'whole.zip');
    const { status, body } = await opened(there, path);
    expect([status, body.missing]).toEqual([201, []]);
    const [before, after] = await Promise.all([
      here.call('getProject', { projectId: own.projectId }),
      there.call('getProject', { projectId: body.id }),
    ]);
    expect(withoutIds(after)).toEqual(withoutIds(before));
    expect(await frames(there, body.id)).toBe(await frames(here, own.projectId));
    const log = (h: Harness, projectId: string) =>
      h.call('listChanges', { projectId }).then((all) => all.map(({ seq: _seq, ...entry }) => entry));
    expect(await log(there, body.id)).toEqual(await log(here, own.projectId));
    await there.call('undo', { projectId: body.id }, { id: randomUUID() as ChangeId });
    expect((await there.call('getProject', { projectId: body.id })).recipes[0]!.value.shift.hueDeg).toBe(40);
    expect((await here.call('getProject', { projectId: own.projectId })).recipes[0]!.value.shift.hueDeg).toBe(75);
  });
  it('whose footage is read otherwise than it states is read so there, and undone there', async () => {
    const none = { exposureStops: 0, hueDeg: 90, saturation: 1, density: 0 };
    const box = { cx: 40, cy: 30, width: 30, height: 20 };
    const { projectId, shotId } = await boxed(here, 'Corrected', file('card.mkv'), box, none);
    const { media, shots } = await here.call('getProject', { projectId });
    const { id, matrix, range } = media[0]!;
    const other = range === 'full' ? ('limited' as const) : ('full' as const);
    const reading = { matrix: matrix as 'gbr', range: other, isDeinterlaced: false };
    const now = await here.call('readMedia', { projectId, mediaId: id }, reading);
    const value = { ...shots[0]!.value, mediaId: now.id };
    await change(here, projectId, 'Read otherwise', { kind: 'shot', id: shotId, revision: 1, value });
    const { status, body } = await opened(there, await saved(here, projectId, 'corrected.zip'));
    expect([status, body.missing]).toEqual([201, []]);
    const document = () => there.call('getProject', { projectId: body.id });
    expect(withoutIds(await document())).toEqual(withoutIds(await here.call('getProject', { projectId })));
    expect(await frames(there, body.id)).toBe(await frames(here, projectId));
    await there.call('undo', { projectId: body.id }, { id: randomUUID() as ChangeId });
    const after = await document();
    expect(after.media.find((m) => m.id === after.shots[0]!.value.mediaId)).toMatchObject({ range, stated: null });
  });
  it('brings what selections were carried to, mask for mask', async () => {
    const { body } = await opened(there, await saved(here, own.projectId, 'carried.zip'));
    const { carried, sightings } = await there.call('getProject', { projectId: body.id });
    const [runId] = carryRunsOf(sightings[0]!.value.layers).map((r) => r.id);
    expect(runId).not.toBe(carryId);
    // backwards: from the last frame on
    expect(carried[runId!]).toEqual([0.75, 0.5]);
    const mask = await fetch(`${there.url}/api/projects/${body.id}/carry-runs/${runId}/3`);
    expect(new Uint8Array(await mask.arrayBuffer())).toEqual(maskOfFrame(3));
  });
  it('brings what tracks have found, and what was removed comes back by undo', async () => {
    const { body } = await opened(there, await saved(here, own.projectId, 'tracks.zip'));
    const runs = (all: readonly object[]) => all.map((run) => ({ ...run, runId: 'one' }));
    const [mine, theirs] = await Promise.all([
      here.call('listTracks', { projectId: own.projectId }),
      there.call('listTracks', { projectId: body.id }),
    ]);
    expect(theirs).toHaveLength(1);
    expect(runs(theirs)).toEqual(runs(mine));
    for (const _ of ['turn', 'colourway'])
      await there.call('undo', { projectId: body.id }, { id: randomUUID() as ChangeId });
    const names = (await there.call('getProject', { projectId: body.id })).colourways.map((c) => c.value.name);
    expect(names).toEqual(['Main', 'Plum']);
  });
  it('can be opened beside itself: two projects that share footage and nothing else', async () => {
    const { body } = await opened(here, await saved(here, own.projectId, 'again.zip'));
    const [first, second] = await Promise.all([
      here.call('getProject', { projectId: own.projectId }),
      here.call('getProject', { projectId: body.id }),
    ]);
    expect(second.media.map((m) => m.id).toSorted()).toEqual(first.media.map((m) => m.id).toSorted());
    const ids = ({ shots, sightings, tracks }: ProjectDocument) =>
      [...shots, ...sightings, ...tracks].map((row) => row.value.id);
    expect(ids(first).filter((id) => ids(second).includes(id))).toEqual([]);
  });
  it('keeps notes and what was decided, which still holds where nothing else is there', async () => {
    const review = await here.call('sendReview', own as never, {
      name: 'Cut 1',
      shotIds: [own.shotId],
      colourwayIds: [own.colourwayId],
      daysValid: 3,
      withLook: false,
    });
    const by = { colourwayId: own.colourwayId, who: 'Ada' };
    await here.call('addVerdict', { token: review.token }, {
      id: randomUUID(),
      sightingId: own.sightingId,
      decision: 'approved',
      text: 'Good',
      ...by,
    } as never);
    const written = { id: randomUUID(), shotId: own.shotId, frame: 2, text: 'Softer', spot: [0.5, 0.5], drawing: [] };
    await here.call('addReviewNote', { token: review.token }, { ...written, ...by } as never);
    const { body } = await opened(there, await saved(here, own.projectId, 'said.zip'));
    const projectId = body.id;
    expect(await there.call('listVerdicts', { projectId })).toMatchObject([
      { decision: 'approved', who: 'Ada', text: 'Good', holds: true },
    ]);
    expect(await there.call('listNotes', { projectId })).toMatchObject([{ text: 'Softer', frame: 2, who: 'Ada' }]);
    const [ended] = await there.call('listReviews', { projectId });
    expect([ended!.name, ended!.isOpen, ended!.token === review.token]).toEqual(['Cut 1', false, false]);
    expect((await there.problem('openReview', { token: ended!.token })).code).toBe('not-found');
  });
  it('without its footage names what is missing, and has it again when it is brought in', async () => {
    const elsewhere = await startHarness({ workers: true });
    const { body } = await opened(elsewhere, await saved(here, own.projectId, 'named.zip', 'named'));
    expect(body.missing.toSorted()).toEqual(['card.mkv', 'still_[08-10].png']);
    const projectId = body.id;
    const before = (await elsewhere.call('getProject', { projectId })).shots.length;
    const back = await upload(elsewhere, projectId, [file('card.mkv')]);
    expect([back.status, back.body.shotIds]).toEqual([201, []]);
    expect((await elsewhere.call('footageFaults', { projectId })).map((f) => f.name)).toEqual(['still_[08-10].png']);
    expect((await elsewhere.call('getProject', { projectId })).shots).toHaveLength(before);
    expect(await frames(elsewhere, projectId)).toBe(await frames(here, own.projectId));
    await elsewhere.close();
  });
});

it('a table that only the look of a shot names goes along, though the history begins after it', async () => {
  const projectId = (await here.call('createProject', {}, { name: 'Dusk' })).id;
  await upload(here, projectId, [file('card.mkv')]);
  writeFileSync(file('dusk.cube'), cubeText(cubeOf('Dusk', 2, (rgb) => rgb.fill(0.25))));
  const { body: cube } = (await upload(here, projectId, [file('dusk.cube')], { route: 'cubes' })) as unknown as {
    body: CubeFile;
  };
  const { value, revision } = (await here.call('getProject', { projectId })).shots[0]!;
  const look = { cdl: null, curves: null, cube };
  await change(here, projectId, 'Look', { kind: 'shot', id: value.id, revision, value: { ...value, look } });
  const copy = await here.call('duplicateProject', { projectId });
  const { status, body } = await opened(there, await saved(here, copy.id, 'dusk.zip'));
  expect(status).toBe(201);
  expect((await there.call('getProject', { projectId: body.id })).shots[0]!.value.look).toEqual(look);
  expect((await fetch(`${there.url}/api/cubes/${cube.sha256}`, { headers: { connection: 'close' } })).status).toBe(200);
});

it('tables are found in the project and in every step of its history, however their fields are ordered', () => {
  const [now, before] = ['a', 'b'].map((digit) => digit.repeat(64));
  const project = { look: { cdl: null, cube: { sha256: now, name: 'Evening' } } };
  // as PostgreSQL gives JSONB back: by the length of their names
  const step = {
    before: { look: { cube: { kind: '3D', name: 'Dawn', sha256: before } } },
    after: { look: { cube: null } },
  };
  expect(cubesIn(project, [{ edits: [step] }])).toEqual([now, before]);
});

describe('a zip that is not what it says', () => {
  /** A zip of these entries; a name may be put in place of another of its length afterwards. */
  async function zipped(entries: Record<string, string | Buffer>, patch?: [string, string]): Promise<string> {
    const path = file(`${randomUUID()}.zip`);
    const zip = new ZipArchive({ zlib: { level: 9 } });
    const out = createWriteStream(path);
    zip.pipe(out);
    for (const [name, content] of Object.entries(entries)) zip.append(content, { name });
    await zip.finalize();
    await finished(out);
    if (patch)
      writeFileSync(
        path,
        readFileSync(path)
          .toString('latin1')
          .replaceAll(...patch),
        'latin1',
      );
    return path;
  }
  interface Texts {
    manifest: { version: number; media: { files: { name: string }[]; input: string }[] };
    project: {
      shots: { value: { projectId: string; mediaId: string } }[];
      pieces: unknown[];
      recipes: { value: object }[];
      carries: { frames: { mask: string }[] }[];
    };
    history: { edits: object[] }[];
  }
  let texts: string;
  beforeAll(async () => {
    const zip = await readArchive(await saved(here, own.projectId, 'good.zip', 'named'));
    const { manifest, project, history } = zip;
    texts = JSON.stringify({ manifest, project, history });
    zip.close();
  });
  /** The saved project with something else in it. */
  const changed = (
    alter: (texts: Texts) => void,
    more: Record<string, string | Buffer> = {},
    patch?: [string, string],
  ) => {
    const { manifest, project, history } = ((all: Texts) => (alter(all), all))(JSON.parse(texts) as Texts);
    const [m, p, h] = [manifest, project, history].map((value) => JSON.stringify(value)) as [string, string, string];
    return zipped({ 'manifest.json': m, 'project.json': p, 'history.json': h, ...more }, patch);
  };
  const foreign = () => there.pool.query<{ id: string }>('select id from piece limit 1');
  const CASES: [what: string, zip: () => Promise<string>, says: RegExp][] = [
    ['no zip', async () => file('card.mkv'), /zip: cannot be read/],
    ['an empty one', () => zipped({}), /manifest\.json: is missing/],
    ['no JSON', () => changed(() => undefined, { 'project.json': '{"project":' }), /project\.json: is no JSON/],
    [
      'a name that leads out',
      () => changed(() => undefined, { 'xx/evil.txt': '1' }, ['xx/evil', '../evil']),
      /invalid relative path|is not in the manifest/,
    ],
    [
      'an absolute name',
      () => changed(() => undefined, { 'x/evil.txt': '1' }, ['x/evil.txt', '/tmp/ev.tx']),
      /absolute path|is not in the manifest/,
    ],
    ['more than is listed', () => changed(() => undefined, { 'more.txt': '1' }), /more\.txt: is not in the manifest/],
    ['a bomb', () => changed(() => undefined, { 'project.json': Buffer.alloc(60e6, 32) }), /packed too tightly/],
    [
      'a mask that is none',
      () => changed((t) => void (t.project.carries[0]!.frames[0]!.mask = 'AAAA')),
      /carries: a mask of no possible size/,
    ],
    ['a newer version', () => changed((t) => void (t.manifest.version = 4)), /manifest\.json: is of version 4/],
    [
      'another format',
      () => changed((t) => void Object.assign(t.manifest, { format: 'zip' })),
      /manifest\.json: format/,
    ],
    [
      'a bad number',
      () => changed((t) => void Object.assign(t.project.recipes[0]!.value, { strength: 7 })),
      /project\.json: recipes\.0\.value\.strength/,
    ],
    ['a thing twice', () => changed((t) => void t.project.pieces.push(t.project.pieces[0])), /stands twice/],
    [
      'a shot of another project',
      () => changed((t) => void (t.project.shots[0]!.value.projectId = randomUUID())),
      /is of another project/,
    ],
    [
      'unlisted footage',
      () => changed((t) => void (t.project.shots[0]!.value.mediaId = randomUUID())),
      /names no footage/,
    ],
    ['a piece that is not there', () => changed((t) => void t.project.pieces.pop()), /contradicts itself/],
    [
      'a bad step of the history',
      () => changed((t) => void Object.assign(t.history[0]!.edits[0]!, { after: { id: 1 } })),
      /history\.json: 0\.edits\.0\.after/,
    ],
    [
      'a file name with a folder',
      () =>
        changed((t) => {
          t.manifest.media[0]!.files[0]!.name = '../../x.mkv';
          t.manifest.media[0]!.input = '../../x.mkv';
        }),
      /is no name/,
    ],
    [
      'files that are not opened',
      () => changed((t) => void (t.manifest.media[0]!.input = 'other.mkv')),
      /not those that it is opened by/,
    ],
  ];
  it('is refused with what and where, and leaves nothing behind', async () => {
    const before = await there.call('listProjects');
    for (const [what, zip, says] of CASES) {
      const { status, body } = await opened(there, await zip());
      expect([what, status, body.detail]).toEqual([what, 400, expect.stringMatching(says)]);
    }
    expect(await there.call('listProjects')).toHaveLength(before.length);
    expect(readdirSync(there.store.staging)).toEqual([]);
  });
  it('that names a piece of another project here is refused', async () => {
    const { id } = (await foreign()).rows[0]!;
    const path = await changed((t) => void Object.assign(t.project.recipes[0]!.value, { pieceId: id }));
    expect((await opened(there, path)).body.detail).toMatch(/belongs to another project/);
  });
  it('that holds other footage than it says is refused', async () => {
    const whole = readFileSync(await saved(here, own.projectId, 'bent.zip'));
    // the footage is stored as it is: a bit of it turned over, and the sum that the zip keeps of it with it
    const at = whole.indexOf(readFileSync(file('card.mkv')));
    expect(at).toBeGreaterThan(0);
    whole[at + 3000]! ^= 1;
    writeFileSync(file('bent.zip'), whole);
    const { status, body } = await opened(there, file('bent.zip'));
    expect([status, body.detail]).toEqual([400, expect.stringMatching(/holds other bytes than the manifest says/)]);
  });
  it('of any broken bytes is refused, or read: never anything else', async () => {
    const good = readFileSync(await changed(() => undefined));
    let seed = 7;
    const random = (below: number) => (seed = (seed * 48_271) % 2_147_483_647) % below;
    let refusals = 0;
    for (let i = 0; i < 1000; i++) {
      const bytes = Buffer.from(good);
      for (let k = 0; k <= random(4); k++) bytes[random(bytes.length)] = random(256);
      writeFileSync(file('fuzz.zip'), random(5) === 0 ? bytes.subarray(0, random(bytes.length)) : bytes);
      try {
        (await readArchive(file('fuzz.zip'))).close();
      } catch (error) {
        expect(error).toBeInstanceOf(Refused);
        refusals++;
      }
    }
    expect(refusals).toBeGreaterThan(300);
  });
});
