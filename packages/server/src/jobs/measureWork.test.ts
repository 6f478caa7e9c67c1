// Which sightings are measured anew after an edit, and how much the database is asked to find out.
import { execFileSync } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { RecipeNumbers, type ChangeId, type Edit, type ProjectId, type ShotId } from '@mellow/contract';
import { colourways, pieces, projects, recipes, shots, sightings } from '../db/entities.ts';
import { measured, saveMeasurements, storedInputs } from '../db/measurements.ts';
import { projectDocument, shotDocument } from '../db/projects.ts';
import { words } from '../media/words.ts';
import { measuredFrames } from '../media/keptFrames.ts';
import { measuredSamples } from '../render/keptSamples.ts';
import { boxed } from '../testing/boxed.ts';
import { counted } from '../testing/counted.ts';
import { startHarness, type Harness } from '../testing/harness.ts';
import { measurementInputs, measureWork, scheduleStaleMeasurements } from './measureWork.ts';

let h: Harness;
beforeAll(async () => {
  h = await startHarness();
});
afterAll(() => h.close());

/** An id of any kind. */
const uuid = (): never => randomUUID() as never;
const SHIFT = { exposureStops: 0, hueDeg: 10, saturation: 1, density: 0 };
const NUMBERS = RecipeNumbers.parse({ shift: SHIFT, strength: 1 });
const LAYER = {
  id: randomUUID(),
  name: 'Box',
  kind: 'shape' as const,
  on: true,
  mode: 'add' as const,
  invert: false,
  strength: 1,
  geometry: { form: 'rectangle' as const, cx: 9, cy: 9, width: 9, height: 9, turnDeg: 0 },
  feather: { innerPx: 0, outerPx: 0, falloff: 'linear' as const },
};
const DESCRIBED = {
  kind: 'video',
  width: 64,
  height: 36,
  fps: { num: 24, den: 1 },
  frames: 5,
  codec: 'ffv1',
  pixelFormat: 'gbrp',
  bitDepth: 8,
  range: 'full',
  matrix: 'gbr',
  primaries: 'bt709',
  transfer: 'bt709',
  timecode: null,
  proposedEncoding: 'rec709',
  notes: [],
};

/** A project in which each of some pieces is isolated in each of some shots, all of it measured in two colourways. */
async function project(shotCount: number, pieceCount: number): Promise<ProjectId> {
  const db = h.pool;
  const projectId: ProjectId = uuid();
  const own = { id: projectId, name: 'Many', tolerance: 1, referenceShotId: null, look: null, viewTable: null };
  await projects.insert(db, own, 1);
  const [mediaId, sha256] = [uuid(), randomUUID().replaceAll('-', '').padEnd(64, '0')];
  await db.query('insert into media (id, sha256, description, files) values ($1, $2, $3, $4)', [
    mediaId,
    sha256,
    { ...DESCRIBED, id: mediaId, sha256, name: 'x' },
    { folder: 'x', input: 'x', startNumber: null },
  ]);
  const ways = [uuid(), uuid()];
  for (const [position, id] of ways.entries())
    await colourways.insert(db, { id, projectId, name: `Way ${position}`, position }, 1);
  const plain = { encoding: 'rec709' as const, balance: null, light: null, patches: [], span: null, look: null };
  const shotIds = Array.from({ length: shotCount }, () => uuid() as ShotId);
  for (const [position, id] of shotIds.entries())
    await shots.insert(db, { ...plain, id, projectId, mediaId, name: `Shot ${position}`, position }, 1);
  for (let position = 0; position < pieceCount; position++) {
    const pieceId = uuid();
    const piece = { id: pieceId, projectId, name: `Piece ${position}`, kind: 'prop' as const, position, partOf: null };
    await pieces.insert(db, piece, 1);
    const recipe = { projectId, pieceId, ...NUMBERS, animated: {} };
    for (const colourwayId of ways) await recipes.insert(db, { ...recipe, id: uuid(), colourwayId }, 1);
    const nothing = { cleanUp: null, spill: null, animated: {}, steadyFrames: 0, trims: {}, body: null };
    for (const shotId of shotIds) {
      const of = { id: uuid(), projectId, pieceId, shotId, state: 'rough' as const };
      await sightings.insert(db, { ...nothing, ...of, layers: [LAYER] }, 1);
    }
  }
  const document = await projectDocument(db, projectId);
  const inputsOf = measurementInputs(document);
  for (const { value } of document.sightings)
    for (const way of ways) await saveMeasurements(db, value.id, way, inputsOf(value.id, way)!, [], 0);
  return projectId;
}
async function scheduled(): Promise<string[]> {
  const { rows } = await h.pool.query<{ key: string }>(
    `select key from graphile_worker.jobs where key like 'measure:%' order by 1`,
  );
  await h.pool.query('select graphile_worker.remove_job(key) from graphile_worker.jobs where key is not null');
  return rows.map((row) => row.key.slice('measure:'.length));
}

it('an edit asks the database as often in a large project as in a small one', async () => {
  const [small, large] = [await project(1, 2), await project(12, 6)];
  const asked = async (id: ProjectId) => {
    const { db, queries } = counted(h.pool);
    await scheduleStaleMeasurements(db, id);
    return queries();
  };
  expect(await asked(large)).toBe(await asked(small));
  expect(await scheduled()).toEqual([]);
});
it('a recipe makes its piece stale wherever it is seen, and the pieces recoloured after it', async () => {
  const id = await project(3, 3);
  const before = await projectDocument(h.pool, id);
  const [first, second, third] = before.pieces.map((p) => p.value.id) as [never, never, never];
  const of = (...ids: string[]) =>
    before.sightings
      .map((s) => s.value)
      .filter((s) => ids.includes(s.pieceId))
      .map((s) => s.id as string)
      .sort();
  const recipe = before.recipes.find((r) => r.value.pieceId === second)!.value;
  await recipes.update(h.pool, { ...recipe, shift: { ...SHIFT, hueDeg: 50 } });
  await scheduleStaleMeasurements(h.pool, id);
  expect(await scheduled()).toEqual(of(second, third));

  const now = measurementInputs(await projectDocument(h.pool, id));
  const stored = await storedInputs(h.pool, id);
  const isStale = (s: string, way: string) => now(s, way) !== stored.get(measured(s, way));
  const others = before.colourways.map((c) => c.value.id).filter((way) => way !== recipe.colourwayId);
  for (const s of of(second, third))
    expect([isStale(s, recipe.colourwayId), isStale(s, others[0]!)]).toEqual([true, false]);
  for (const s of of(first)) expect(isStale(s, recipe.colourwayId)).toBe(false);
});
it('what is not in the document has nothing that it is measured by', async () => {
  const inputsOf = measurementInputs(await projectDocument(h.pool, await project(1, 1)));
  expect(inputsOf(randomUUID(), randomUUID())).toBeUndefined();
});
it('what is read of one shot says the same of it as the whole project does', async () => {
  const id = await project(3, 2);
  const whole = await projectDocument(h.pool, id);
  const inputsOf = measurementInputs(whole);
  for (const { value: shot } of whole.shots) {
    const own = await shotDocument(h.pool, id, shot.id);
    const inputsOfOwn = measurementInputs(own);
    expect(own.sightings).toHaveLength(2);
    for (const { value: sighting } of whole.sightings)
      for (const { value: colourway } of whole.colourways)
        expect(inputsOfOwn(sighting.id, colourway.id)).toBe(
          sighting.shotId === shot.id ? inputsOf(sighting.id, colourway.id) : undefined,
        );
  }
});
/** A piece on two frames of film, measured when that is asked for. */
async function onFilm(name: string) {
  const work = mkdtempSync(join(tmpdir(), 'mellow-measure-'));
  const film = join(work, 'film.mkv');
  execFileSync('ffmpeg', [...words('-v error -y -f lavfi -i testsrc2=size=64x36:rate=24 -frames:v 2 -c:v ffv1'), film]);
  const { projectId, sightingId } = await boxed(h, name, film, { cx: 32, cy: 18, width: 20, height: 20 }, SHIFT);
  rmSync(work, { recursive: true });
  const log = { info: () => undefined, error: () => undefined };
  const measure = (pool = h.pool, store = h.store) =>
    measureWork({ pool, store, log }, { sightingId }, new AbortController().signal);
  const turnTo = async (hueDeg: number) => {
    const { value, revision } = (await h.call('getProject', { projectId })).recipes[0]!;
    const edit = { kind: 'recipe', id: value.id, revision, value: { ...value, shift: { ...SHIFT, hueDeg } } } as Edit;
    await h.call('change', { projectId }, { id: randomUUID() as ChangeId, label: 'Turn', edits: [edit] });
    await scheduleStaleMeasurements(h.pool, projectId);
  };
  const found = () => h.call('listMeasurements', { projectId });
  return { sightingId, measure, turnTo, found, fresh: async () => (await found()).map((m) => m.fresh) };
}

it('after an edit of its recipe a piece is measured by what is kept of its frames, as on the frames', async () => {
  const { measure, turnTo, found, fresh } = await onFilm('Kept');
  await measure();
  await turnTo(90);
  // whatever was decoded is gone, and so is the footage
  measuredFrames.clear();
  await measure(h.pool, { ...h.store, root: join(h.store.root, 'nowhere') });
  expect(await fresh()).toEqual([true]);
  const byWhatIsKept = await found();
  expect(byWhatIsKept[0]!.frames).toHaveLength(2);
  measuredSamples.clear();
  await turnTo(40);
  await measure();
  expect((await found())[0]!.frames).not.toEqual(byWhatIsKept[0]!.frames);
  measuredSamples.clear();
  await turnTo(90);
  await measure();
  expect(await found()).toEqual(byWhatIsKept);
  await scheduled();
});

it('an edit that is taken back while what it made stale is being stored has it measured again', async () => {
  const { sightingId, measure, turnTo, fresh } = await onFilm('Back');
  await measure();
  expect(await fresh()).toEqual([true]);
  await turnTo(90);
  expect(await scheduled()).toEqual([sightingId]);

  let taken = 0;
  const query = async (...asked: Parameters<typeof h.pool.query>) => {
    const [text]: unknown[] = asked;
    const isStoring = typeof text === 'string' && text.startsWith('insert into measurement');
    if (isStoring && taken++ === 0) await turnTo(SHIFT.hueDeg);
    return h.pool.query(...asked);
  };
  await measure(Object.assign(Object.create(h.pool), { query }));
  // what is stored was as it should be when the edit was looked through
  expect([taken, await fresh(), await scheduled()]).toEqual([1, [false], [sightingId]]);
  await measure();
  expect(await fresh()).toEqual([true]);
});
