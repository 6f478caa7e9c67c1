import { execFileSync } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, expect, it } from 'vitest';
import type { ChangeId, Edit, ProjectDocument } from '@mellow/contract';
import { startHarness, type Harness } from '../testing/harness.ts';
import { upload } from '../testing/uploading.ts';
import { words } from '../media/words.ts';
import { insertRun, listRuns, saveFrames } from './trackRuns.ts';

let h: Harness;
let projectId: string;
const work = mkdtempSync(join(tmpdir(), 'mellow-copy-'));
const read = (id: string): Promise<ProjectDocument> => h.call('getProject', { projectId: id });
const change = (id: string, edits: unknown[]) =>
  h.call('change', { projectId: id }, { id: randomUUID() as ChangeId, label: 'Set up', edits: edits as Edit[] });

beforeAll(async () => {
  h = await startHarness();
  const file = join(work, 'shot.mkv');
  execFileSync('ffmpeg', [...words('-v error -f lavfi -i testsrc2=size=64x36:rate=24 -frames:v 4 -c:v ffv1'), file]);
  projectId = (await h.call('createProject', {}, { name: 'Slow Morning' })).id;
  const { shotIds } = (await upload(h, projectId, [file])).body;
  const [shotId] = shotIds;
  const colourwayId = (await read(projectId)).colourways[0]!.value.id;
  const [piece, part, sighting, recipe, track, run] = Array.from({ length: 6 }, () => randomUUID());
  await insertRun(h.pool, run!, projectId);
  await saveFrames(h.pool, run!, [{ frame: 1, motion: [1, 0, 2, 0, 1, 3, 0, 0, 1], confidence: 0.9 }] as never);
  const put = (kind: string, value: { id: string | undefined }) => ({ kind, id: value.id, revision: null, value });
  const region = { form: 'rectangle', cx: 30, cy: 18, width: 20, height: 10, turnDeg: 0 };
  const freedom = { move: true, turn: false, scale: false, shear: false, perspective: false };
  const layer = {
    id: randomUUID(),
    name: 'Box',
    kind: 'shape',
    on: true,
    mode: 'add',
    invert: false,
    strength: 1,
    geometry: region,
    feather: { innerPx: 0, outerPx: 0, falloff: 'linear' },
    follow: { trackId: track, ...freedom },
  };
  const shift = { exposureStops: 0, hueDeg: 30, saturation: 1, density: 0 };
  await change(projectId, [
    put('piece', { id: piece, projectId, name: 'Lark', kind: 'product', position: 0 } as never),
    put('piece', { id: part, projectId, name: 'Lock', kind: 'product', position: 1, partOf: piece } as never),
    put('track', {
      id: track,
      projectId,
      shotId,
      name: 'Track 1',
      referenceFrame: 0,
      region,
      freedom,
      holdOuts: [],
      manual: [],
      runs: [{ id: run, from: 0, to: 3, first: 1, last: 1 }],
    } as never),
    put('sighting', { id: sighting, projectId, pieceId: piece, shotId, layers: [layer] } as never),
    put('recipe', {
      id: recipe,
      projectId,
      pieceId: piece,
      colourwayId,
      shift,
      strength: 1,
      animated: { [shotId!]: { strength: [{ frame: 0, value: 1, ease: 'hold' }] } },
    } as never),
  ]);
});
afterAll(async () => {
  await h.close();
  rmSync(work, { recursive: true, force: true });
});

it('makes a project that is the same in everything but its ids, and shares the footage', async () => {
  const { id } = await h.call('duplicateProject', { projectId });
  const [was, copy] = [await read(projectId), await read(id)];
  expect(copy.project.value.name).toBe('Slow Morning copy');
  expect(copy.media).toEqual(was.media);
  // nothing of it names anything of the first
  const own = [was.project, ...was.shots, ...was.pieces, ...was.sightings, ...was.recipes, ...was.tracks];
  for (const { value } of own) expect(JSON.stringify(copy)).not.toContain(value.id);
  const [shot, piece, track] = [copy.shots[0]!.value, copy.pieces[0]!.value, copy.tracks[0]!.value];
  expect(copy.pieces[1]!.value.partOf).toBe(piece.id);
  expect(copy.sightings[0]!.value).toMatchObject({ pieceId: piece.id, shotId: shot.id });
  expect(copy.sightings[0]!.value.layers[0]).toMatchObject({ follow: { trackId: track.id } });
  expect(Object.keys(copy.recipes[0]!.value.animated)).toEqual([shot.id]);
  const [found] = await listRuns(h.pool, [track.runs[0]!.id]);
  expect(found!.frames).toMatchObject([{ frame: 1, confidence: 0.9 }]);
  // from here on each goes its own way
  const { value, revision } = copy.pieces[0]!;
  await change(id, [{ kind: 'piece', id: value.id, revision, value: { ...value, name: 'Wren' } }]);
  expect((await read(projectId)).pieces[0]!.value.name).toBe('Lark');
});

it('gives a new project its pieces, colourways and requirements, and nothing else', async () => {
  const was = await read(projectId);
  const [piece, colourway] = [was.pieces[0]!.value.id, was.colourways[0]!.value.id];
  const id = randomUUID();
  const of = { id, projectId, pieceId: piece, colourwayId: colourway };
  const value = { ...of, name: 'Marigold', lab: { L: 68, a: 20, b: 60 } };
  const stated = { illuminant: 'D65', tolerance: 0.8, asInShotId: was.shots[0]!.value.id };
  await change(projectId, [{ kind: 'requirement', id, revision: null, value: { ...value, ...stated } }]);
  const made = await read((await h.call('createProject', {}, { name: 'Autumn', piecesOf: projectId as never })).id);
  expect(made.project.value).toMatchObject({ name: 'Autumn', referenceShotId: null });
  expect(made.pieces.map((p) => p.value.name)).toEqual(['Lark', 'Lock']);
  expect(made.pieces[1]!.value.partOf).toBe(made.pieces[0]!.value.id);
  expect(made.requirements.map((r) => r.value)).toMatchObject([
    { pieceId: made.pieces[0]!.value.id, colourwayId: made.colourways[0]!.value.id, tolerance: 0.8, asInShotId: null },
  ]);
  expect(made.colourways.map((c) => c.value.name)).toEqual(was.colourways.map((c) => c.value.name));
  expect([made.shots, made.sightings, made.recipes, made.tracks].map((part) => part.length)).toEqual([0, 0, 0, 0]);
  for (const { value: own } of [was.project, ...was.pieces, ...was.colourways])
    expect(JSON.stringify(made)).not.toContain(own.id);
  const before = (await h.call('listProjects')).length;
  const none = { name: 'Nothing', piecesOf: randomUUID() as never };
  expect((await h.problem('createProject', {}, none)).status).toBe(404);
  expect(await h.call('listProjects')).toHaveLength(before);
});

it('is listed with a poster and its state; what is removed is there to be brought back', async () => {
  const card = async () => (await h.call('listProjects')).find((p) => p.id === projectId)!;
  const mediaId = (await read(projectId)).shots[0]!.value.mediaId;
  expect(await card()).toMatchObject({ state: 'open', poster: { mediaId, frame: 2 } });
  await h.call('setProjectState', { projectId }, { state: 'removed' });
  expect((await card()).state).toBe('removed');
  expect((await read(projectId)).pieces).toHaveLength(2);
  await h.call('setProjectState', { projectId }, { state: 'open' });
  expect((await card()).state).toBe('open');
  const none = { projectId: randomUUID() };
  expect((await h.problem('setProjectState', none, { state: 'archived' })).status).toBe(404);
  expect((await h.problem('duplicateProject', none)).status).toBe(404);
  expect((await h.problem('setProjectState', { projectId }, { state: 'gone' })).status).toBe(400);
});
