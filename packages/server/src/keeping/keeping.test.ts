// What takes room, what is deleted for good, and that nothing else is.
import { execFileSync } from 'node:child_process';
import { createHash, randomUUID } from 'node:crypto';
import {
  existsSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  statSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import type { ChangeId, ProjectId } from '@mellow/contract';
import { listLoose, noteLoose } from '../db/looseFiles.ts';
import { words } from '../media/words.ts';
import { startHarness, until, type Harness } from '../testing/harness.ts';
import { upload } from '../testing/uploading.ts';
import { keepHouse } from './keeping.ts';

let h: Harness;
const work = mkdtempSync(join(tmpdir(), 'mellow-keeping-'));
const film = (name: string) => join(work, name);
const FILMS = ['own.mkv', 'shared.mkv', 'other.mkv'];
beforeAll(async () => {
  h = await startHarness({ workers: true });
  for (const [n, name] of FILMS.entries()) {
    const picture = words(`-v error -f lavfi -i testsrc2=size=${160 + 16 * n}x90:rate=24 -frames:v 4 -c:v ffv1`);
    execFileSync('ffmpeg', [...picture, film(name)]);
  }
});
afterAll(async () => {
  await h.close();
  rmSync(work, { recursive: true, force: true });
});
beforeEach(async () => {
  await h.pool.query('truncate project, media, loose_files cascade');
  for (const folder of ['frames', 'deliveries']) emptyFolder(join(h.store.root, folder));
  for (const name of stored()) rmSync(join(h.store.root, 'store', name), { recursive: true });
});

const emptyFolder = (path: string) => {
  rmSync(path, { recursive: true });
  mkdirSync(path);
};
const newProject = async (name: string): Promise<ProjectId> => (await h.call('createProject', {}, { name })).id;
/** Brings films in, and waits until their small pictures are made: their ids and hashes. */
async function withFilms(projectId: string, ...names: string[]) {
  await upload(
    h,
    projectId,
    names.map((name) => film(name)),
  );
  await until('small pictures', async () => {
    const { media, proxies } = await h.call('getProject', { projectId });
    return media.length === names.length && media.every((m) => proxies[m.id]?.state === 'done');
  });
  const { media, shots, colourways } = await h.call('getProject', { projectId });
  const of = new Map(media.map((m) => [m.name, m]));
  return { media: names.map((name) => of.get(name)!), shots, colourways };
}
const stored = () => readdirSync(join(h.store.root, 'store')).filter((name) => name.length === 64);
const framed = () => readdirSync(join(h.store.root, 'frames'));
/** Footage was last wanted so long ago. */
const age = (interval: string) => h.pool.query('update media set wanted_at = now() - $1::interval', [interval]);
const remove = (projectId: string) => h.call('setProjectState', { projectId }, { state: 'removed' });
async function rendered(projectId: string, shotId: string, colourwayId: string) {
  const asked = { shotIds: [shotId], colourwayIds: [colourwayId], preset: 'ffv1' } as never;
  const { id } = (await h.call('render', { projectId }, asked))[0]!;
  await until(
    'the render',
    async () => (await h.call('listDeliveries', { projectId })).find((d) => d.id === id)?.job.state === 'done',
  );
  return id;
}

describe('a project', () => {
  it('is deleted with its renders and the footage that no other has; what others have stays', async () => {
    const [gone, kept] = [await newProject('Gone'), await newProject('Kept')];
    const { media, shots, colourways } = await withFilms(gone, 'own.mkv', 'shared.mkv');
    await withFilms(kept, 'shared.mkv');
    const render = await rendered(gone, shots[0]!.value.id, colourways[0]!.value.id);
    const early = await h.problem('deleteProject', { projectId: gone });
    expect(early).toMatchObject({ code: 'conflict', detail: expect.stringContaining('“Gone” is not removed') });
    await remove(gone);
    await age('2 hours');
    expect(await h.call('deleteProject', { projectId: gone })).toEqual({ id: gone });
    expect((await h.problem('getProject', { projectId: gone })).status).toBe(404);
    const [own, shared] = media.map((m) => m.sha256);
    expect([stored().includes(own!), stored().includes(shared!)]).toEqual([false, true]);
    expect(framed().toSorted()).toEqual([media[1]!.id]);
    expect(existsSync(join(h.store.root, 'deliveries', render))).toBe(false);
    expect((await h.call('getProject', { projectId: kept })).media.map((m) => m.sha256)).toEqual([shared]);
  });
  it('keeps the footage of shots that were removed: an undo asks for it again', async () => {
    const projectId = await newProject('Undone');
    const { shots, media } = await withFilms(projectId, 'own.mkv');
    const edits = [{ kind: 'shot' as const, id: shots[0]!.value.id, revision: shots[0]!.revision, value: null }];
    await h.call('change', { projectId }, { id: randomUUID() as ChangeId, label: 'Remove', edits });
    await age('30 days');
    expect(await keepHouse(h.pool, h.store, {})).toMatchObject({ unused: [], loose: [] });
    await h.call('undo', { projectId }, { id: randomUUID() as ChangeId });
    expect((await h.call('getProject', { projectId })).shots).toHaveLength(1);
    expect(stored()).toContain(media[0]!.sha256);
  });
  it('is deleted by itself where the rules say so, counted from when it was removed last', async () => {
    const projectId = await newProject('Old');
    const days = (n: number) => ({ removedDays: n });
    await remove(projectId);
    await h.pool.query(`update project set removed_at = now() - interval '10 days' where id = $1`, [projectId]);
    await h.call('setProjectState', { projectId }, { state: 'open' });
    await remove(projectId);
    expect((await keepHouse(h.pool, h.store, days(9))).deleted).toEqual([]);
    await h.pool.query(`update project set removed_at = now() - interval '10 days' where id = $1`, [projectId]);
    expect((await keepHouse(h.pool, h.store, {})).deleted).toEqual([]);
    expect((await keepHouse(h.pool, h.store, days(9))).deleted).toEqual(['project Old']);
    expect(await h.call('listProjects')).toEqual([]);
  });
});

describe('a render', () => {
  it('is deleted with its files, not while it waits, and by itself where the rules say so', async () => {
    const projectId = await newProject('Renders');
    const { shots, colourways } = await withFilms(projectId, 'own.mkv');
    const [shotId, colourwayId] = [shots[0]!.value.id, colourways[0]!.value.id];
    const [first, second] = [
      await rendered(projectId, shotId, colourwayId),
      await rendered(projectId, shotId, colourwayId),
    ];
    await h.call('deleteDelivery', { deliveryId: first });
    expect(readdirSync(join(h.store.root, 'deliveries'))).toEqual([second]);
    expect((await h.problem('deleteDelivery', { deliveryId: first })).status).toBe(404);
    await h.pool.query(`update job set finished_at = now() - interval '40 days' where kind = 'render'`);
    expect((await keepHouse(h.pool, h.store, { rendersDays: 41 })).deleted).toEqual([]);
    expect((await keepHouse(h.pool, h.store, { rendersDays: 39 })).deleted).toHaveLength(1);
    expect(readdirSync(join(h.store.root, 'deliveries'))).toEqual([]);
    await h.pause();
    const asked = { shotIds: [shotId], colourwayIds: [colourwayId], preset: 'ffv1' as const };
    const [waiting] = await h.call('render', { projectId }, asked);
    expect((await h.problem('deleteDelivery', { deliveryId: waiting!.id })).code).toBe('conflict');
    await h.resume();
  });
});

/** A file in a folder of the media folder. */
function lying(path: string): void {
  mkdirSync(join(h.store.root, path), { recursive: true });
  writeFileSync(join(h.store.root, path, 'file'), 'x');
}
const lies = (path: string): boolean => existsSync(join(h.store.root, path));

describe('footage that became no shot', () => {
  it('is cleared away a day after, and comes in again as if it had never been here', async () => {
    const { media } = await withFilms(await newProject('Film'), 'own.mkv');
    await upload(h, await newProject('Killed'), [film('other.mkv')], { route: 'plates' });
    // a process was killed between the footage and its plate
    await h.pool.query('delete from plate');
    await h.pool.query('delete from project_media where media_id <> $1', [media[0]!.id]);
    await until('the work', async () => {
      const { rows } = await h.pool.query(`select 1 from job where state in ('queued', 'running')`);
      return rows.length === 0;
    });
    expect((await keepHouse(h.pool, h.store, {})).unused).toEqual([]);
    expect((await h.call('space')).unusedBytes).toBeGreaterThan(statSync(film('other.mkv')).size);
    await age('25 hours');
    expect((await keepHouse(h.pool, h.store, {})).unused).toHaveLength(1);
    expect([stored(), framed()]).toEqual([[media[0]!.sha256], [media[0]!.id]]);
    expect((await h.call('space')).unusedBytes).toBe(0);
    await withFilms(await newProject('Again'), 'other.mkv');
    expect(stored()).toHaveLength(2);
  });
});

describe('files without a row', () => {
  it('are cleared away where they were noted: whoever put them there, or deleted their row, was killed', async () => {
    const { media } = await withFilms(await newProject('Film'), 'own.mkv');
    const killed = [`store/${'f'.repeat(64)}`, `deliveries/${randomUUID()}`, `frames/${randomUUID()}`];
    const known = `store/${media[0]!.sha256}`;
    for (const path of killed) lying(path);
    await noteLoose(h.pool, [...killed, known]);
    expect((await keepHouse(h.pool, h.store, {})).loose.toSorted()).toEqual(killed.toSorted());
    expect([...killed, known].map(lies)).toEqual([false, false, false, true]);
    expect(await listLoose(h.pool)).toEqual([]);
  });
  it('are nobody’s to clear away where they were not: another database, or this one earlier, knew them', async () => {
    const others = [`store/${'e'.repeat(64)}`, `deliveries/${randomUUID()}`, `frames/${randomUUID()}`];
    for (const path of others) lying(path);
    expect((await keepHouse(h.pool, h.store, {})).loose).toEqual([]);
    expect(others.map(lies)).toEqual([true, true, true]);
  });
  it('are noted while footage comes in, and no longer', async () => {
    const noted: string[][] = [];
    const client = await h.pool.connect();
    const sha256 = createHash('sha256')
      .update(readFileSync(film('own.mkv')))
      .digest('hex');
    await client.query('begin');
    // the row of the footage has to wait for this one
    await client.query(
      `insert into media (id, sha256, description, files) values (gen_random_uuid(), $1, '{}', '{}')`,
      [sha256],
    );
    const coming = upload(h, await newProject('Film'), [film('own.mkv')]);
    await until('the note', async () => {
      noted.push(await listLoose(h.pool));
      return noted.at(-1)!.length > 0;
    });
    expect(noted.at(-1)).toEqual([`store/${sha256}`]);
    await client.query('rollback');
    client.release();
    expect((await coming).status).toBe(201);
    expect(await listLoose(h.pool)).toEqual([]);
  });
  it('are looked for by one process at a time', async () => {
    const path = `frames/${randomUUID()}`;
    await noteLoose(h.pool, [path]);
    const client = await h.pool.connect();
    await client.query('select pg_advisory_lock(7203114)');
    expect((await keepHouse(h.pool, h.store, {})).loose).toEqual([]);
    await client.query('select pg_advisory_unlock(7203114)');
    client.release();
    expect((await keepHouse(h.pool, h.store, {})).loose).toEqual([path]);
  });
});

describe('space', () => {
  it('is told by project, footage once however it is read, and of what came in before it was noted', async () => {
    const [small, large] = [await newProject('Small'), await newProject('Large')];
    const { media } = await withFilms(large, 'own.mkv', 'shared.mkv');
    await withFilms(small, 'own.mkv');
    const reading = { matrix: 'smpte170m', range: 'full', isDeinterlaced: false } as const;
    await h.call('readMedia', { projectId: large, mediaId: media[0]!.id }, reading);
    const of = async () => {
      const { projects } = await h.call('space');
      return projects.map(({ name, footageBytes, frameBytes, state }) => [name, footageBytes, frameBytes > 0, state]);
    };
    const bytes = (...names: string[]) => names.reduce((sum, name) => sum + statSync(film(name)).size, 0);
    const all = [
      ['Large', bytes('own.mkv', 'shared.mkv'), true, 'open'],
      ['Small', bytes('own.mkv'), true, 'open'],
    ];
    await until('the new small pictures', async () => {
      const { rows } = await h.pool.query('select 1 from media where frame_bytes is null');
      return rows.length === 0;
    });
    expect(await of()).toEqual(all);
    await h.pool.query('update media set bytes = null, frame_bytes = null');
    expect((await of()).map(([, footage]) => footage)).toEqual([0, 0]);
    await keepHouse(h.pool, h.store, {});
    expect(await of()).toEqual(all);
    const { freeBytes, diskBytes } = await h.call('space');
    expect(freeBytes > 0 && freeBytes < diskBytes).toBe(true);
  });
});

describe('with bounds', () => {
  let own: Harness;
  const size = () => statSync(film('own.mkv')).size;
  const bound = () => Math.round(size() * 1.5);
  beforeAll(async () => {
    own = await startHarness({ keeping: { projectBytes: bound(), uploadBytes: bound() } });
  });
  afterAll(() => own.close());
  it('a project takes no more footage than it may have, and says so', async () => {
    const { id: projectId } = await own.call('createProject', {}, { name: 'Bounded' });
    expect((await upload(own, projectId, [film('own.mkv')])).status).toBe(201);
    const refused = await upload(own, projectId, [film('other.mkv')]);
    expect([refused.status, refused.body.code]).toEqual([413, 'too-large']);
    expect(refused.body.detail).toContain('A project may have');
    expect((await own.call('getProject', { projectId })).shots).toHaveLength(1);
    expect((await own.call('space')).projectBytes).toBe(bound());
  });
  it('nobody has more on the way than they may', async () => {
    const begin = () =>
      fetch(`${own.url}/api/uploads`, {
        method: 'POST',
        headers: {
          ...{ 'tus-resumable': '1.0.0', connection: 'close', 'upload-length': String(size()) },
          'upload-metadata': `filename ${Buffer.from('a.mkv').toString('base64')}`,
        },
      });
    expect((await begin()).status).toBe(201);
    const refused = await begin();
    expect(refused.status).toBe(413);
    expect(((await refused.json()) as { detail: string }).detail).toContain('may be on the way');
  });
});
