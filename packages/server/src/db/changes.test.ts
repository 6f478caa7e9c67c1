import { randomUUID } from 'node:crypto';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { NO_FINER, type ChangeId, type Edit, type PieceId, type ProjectId, type RecipeId } from '@mellow/contract';
import { startHarness, type Harness } from '../testing/harness.ts';
import { counted } from '../testing/counted.ts';
import { LOCAL } from './author.ts';
import { insertCarryRun } from './carryRuns.ts';
import { applyChangeWithin } from './changes.ts';
import { migrate, migrationFiles } from './migrate.ts';

let h: Harness;
beforeAll(async () => void (h = await startHarness()));
afterAll(() => h.close());

async function newProject() {
  const { id } = await h.call('createProject', {}, { name: 'Slow Morning' });
  const change = (label: string, edits: Edit[], changeId = randomUUID()) =>
    h.call('change', { projectId: id }, { id: changeId as ChangeId, label, edits });
  const document = () => h.call('getProject', { projectId: id });
  return { id: id, change, document };
}
const pieceEdit = (projectId: ProjectId, id: string, name: string, revision: number | null): Edit => ({
  kind: 'piece',
  id,
  revision,
  value: { id: id as PieceId, projectId, name, kind: 'product', position: 0, partOf: null },
});

describe('migrations', () => {
  it('are all applied, once, in order, and are never applied again', async () => {
    const { rows } = await h.pool.query<{ name: string }>('select name from migration order by version');
    expect(rows.map((r) => r.name)).toEqual(migrationFiles());
    expect(await migrate(h.pool)).toEqual([]);
  });
  it('give every entity table a revision, and jobs no worker columns (000001, 000002)', async () => {
    const { rows } = await h.pool.query<{ t: string; c: string }>(
      "select table_name as t, column_name as c from information_schema.columns where table_schema = 'public'",
    );
    const has = (t: string, c: string) => rows.some((r) => r.t === t && r.c === c);
    for (const table of ['project', 'shot', 'piece', 'colourway', 'requirement', 'recipe', 'sighting'])
      expect(has(table, 'revision')).toBe(true);
    expect(has('worker_heartbeat', 'at')).toBe(true);
    expect(has('job', 'worker_id')).toBe(false);
  });
  it(
    'give balances and plates (000003), tracks with their frames, and keyframes to what was ' + 'there before (000004)',
    async () => {
      const { rows } = await h.pool.query<{ t: string; c: string; fallback: string | null }>(
        `select table_name as t, column_name as c, column_default as fallback from information_schema.columns
        where table_schema = 'public'`,
      );
      const column = (t: string, c: string) => rows.find((r) => r.t === t && r.c === c);
      for (const [t, c] of [
        ['shot', 'balance'],
        ['sighting', 'spill'],
        ['plate', 'media_id'],
        ['track', 'runs'],
        ['track_run', 'stopped_reason'],
        ['track_frame', 'motion'],
      ] as const)
        expect(column(t, c)).toBeDefined();
      for (const table of ['recipe', 'sighting']) expect(column(table, 'animated')?.fallback).toContain('{}');
      // 000005: how a region bends; 000006: steadied over no frames unless it is asked for
      expect(column('track_frame', 'flex')).toBeDefined();
      expect(column('sighting', 'steady_frames')?.fallback).toBe('0');
      // 000007: presses of undo and redo
      expect(column('history_step', 'revisions')).toBeDefined();
      // 000009: tools put aside in recipes from before there were any; 000010: what is kept for judging
      expect(column('recipe', 'finer')?.fallback).toContain('"dye": {"on": false');
      expect(column('sighting', 'state')?.fallback).toContain('rough');
      // 000011: what was required before is of the mean
      expect(column('requirement', 'of_what')?.fallback).toContain('mean');
      for (const table of ['recipe_version', 'still']) expect(column(table, 'revision')).toBeDefined();
    },
  );
});

describe('changes', () => {
  it('create, edit and remove through one log, with undo and redo named', async () => {
    const p = await newProject();
    const id = randomUUID();
    expect((await p.change('Add piece Lark', [pieceEdit(p.id, id, 'Lark', null)])).revisions).toEqual({ [id]: 1 });
    expect((await p.change('Rename', [pieceEdit(p.id, id, 'Lark suitcase', 1)])).history).toEqual({
      undo: 'Rename',
      redo: null,
    });
    expect((await h.call('undo', { projectId: p.id }, { id: randomUUID() as ChangeId })).history).toEqual({
      undo: 'Add piece Lark',
      redo: 'Rename',
    });
    expect((await p.document()).pieces.map((x) => x.value.name)).toEqual(['Lark']);
    await h.call('undo', { projectId: p.id }, { id: randomUUID() as ChangeId });
    expect((await p.document()).pieces).toEqual([]);
    await h.call('redo', { projectId: p.id }, { id: randomUUID() as ChangeId });
    const last = await h.call('redo', { projectId: p.id }, { id: randomUUID() as ChangeId });
    expect(last.history).toEqual({ undo: 'Rename', redo: null });
    expect((await p.document()).pieces.map((x) => x.value.name)).toEqual(['Lark suitcase']);
    expect((await h.problem('redo', { projectId: p.id }, { id: randomUUID() })).code).toBe('conflict');
    expect((await h.call('listChanges', { projectId: p.id })).map((c) => [c.label, c.state])).toEqual([
      ['Rename', 'done'],
      ['Add piece Lark', 'done'],
    ]);
  });
  it('take back what an older version logged, without the fields that have come since', async () => {
    const p = await newProject();
    const [pieceId, id] = [randomUUID() as PieceId, randomUUID() as RecipeId];
    const colourwayId = (await p.document()).colourways[0]!.value.id;
    const recipe = (hueDeg: number, revision: number | null): Edit => ({
      kind: 'recipe',
      id,
      revision,
      value: {
        id,
        projectId: p.id,
        pieceId,
        colourwayId,
        match: { long: 1, middle: 1, short: 1 },
        repaint: { on: false, sheen: 1 },
        finer: NO_FINER,
        shift: { exposureStops: 0, hueDeg, saturation: 1, density: 0 },
        strength: 1,
        animated: {},
      },
    });
    await p.change('Add', [pieceEdit(p.id, pieceId, 'Lark', null), recipe(10, null)]);
    await p.change('Turn', [recipe(20, 1)]);
    await h.pool.query(
      `update change set edits = jsonb_set(edits, '{0,before}', (edits #> '{0,before}') - 'animated')
        where project_id = $1 and label = 'Turn'`,
      [p.id],
    );
    await h.call('undo', { projectId: p.id }, { id: randomUUID() as ChangeId });
    expect((await p.document()).recipes[0]!.value).toMatchObject({ shift: { hueDeg: 10 }, animated: {} });
  });
  it('never give out a revision twice, so a stale write is caught even after undo', async () => {
    const p = await newProject();
    const id = randomUUID();
    await p.change('Add', [pieceEdit(p.id, id, 'A', null)]);
    await h.call('undo', { projectId: p.id }, { id: randomUUID() as ChangeId });
    await h.call('redo', { projectId: p.id }, { id: randomUUID() as ChangeId });
    const stale = await h.problem(
      'change',
      { projectId: p.id },
      { id: randomUUID(), label: 'x', edits: [pieceEdit(p.id, id, 'B', 1)] },
    );
    expect([stale.status, stale.code]).toEqual([409, 'stale-revision']);
    expect(stale.current).toMatchObject({ revision: 2, value: { name: 'A' } });
  });
  it('take all edits or none', async () => {
    const p = await newProject();
    const [a, b] = [randomUUID(), randomUUID()];
    await p.change('Add', [pieceEdit(p.id, a, 'A', null)]);
    const refused = await h.problem(
      'change',
      { projectId: p.id },
      { id: randomUUID(), label: 'two', edits: [pieceEdit(p.id, b, 'B', null), pieceEdit(p.id, a, 'A2', 7)] },
    );
    expect(refused.code).toBe('stale-revision');
    expect((await p.document()).pieces.map((x) => x.value.name)).toEqual(['A']);
    expect((await p.document()).history.undo).toBe('Add');
  });
  it('answer a repeat as the first time and do it once', async () => {
    const p = await newProject();
    const [id, changeId] = [randomUUID(), randomUUID()];
    const first = await p.change('Add', [pieceEdit(p.id, id, 'A', null)], changeId);
    expect(await p.change('Add', [pieceEdit(p.id, id, 'A', null)], changeId)).toEqual(first);
    expect((await h.call('listChanges', { projectId: p.id })).length).toBe(1);
  });
  it('ask the database for little: with many at work each query is a wait', async () => {
    const p = await newProject();
    const id = randomUUID();
    await p.change('Add', [pieceEdit(p.id, id, 'A', null)]);
    const { db, queries } = counted(h.pool);
    const change = { id: randomUUID() as ChangeId, label: 'Rename', edits: [pieceEdit(p.id, id, 'B', 1)] };
    await applyChangeWithin(db, p.id, change, LOCAL);
    // its turn, was it done before, what stands, what comes, the log, who hears, what follows, what can be undone
    expect(queries()).toBe(8);
  });
  it('let just one of two writers win that start from the same revision', async () => {
    const p = await newProject();
    const id = randomUUID();
    await p.change('Add', [pieceEdit(p.id, id, 'A', null)]);
    const both = await Promise.allSettled(['B', 'C'].map((name) => p.change(name, [pieceEdit(p.id, id, name, 1)])));
    expect(both.map((r) => r.status).sort()).toEqual(['fulfilled', 'rejected']);
  });
  it('drop what was undone once something else is done, but keep it in the log', async () => {
    const p = await newProject();
    await p.change('First', [pieceEdit(p.id, randomUUID(), 'A', null)]);
    await h.call('undo', { projectId: p.id }, { id: randomUUID() as ChangeId });
    const after = await p.change('Second', [pieceEdit(p.id, randomUUID(), 'B', null)]);
    expect(after.history.redo).toBeNull();
    expect((await h.call('listChanges', { projectId: p.id })).map((c) => c.state)).toEqual(['done', 'abandoned']);
  });
  it('take the dependents of a removed piece along, and bring all back with one undo', async () => {
    const p = await newProject();
    const [piece, requirement] = [randomUUID(), randomUUID()];
    const colourwayId = (await p.document()).colourways[0]!.value.id;
    await p.change('Add', [pieceEdit(p.id, piece, 'A', null)]);
    await p.change('Require', [
      {
        kind: 'requirement',
        id: requirement,
        revision: null,
        value: {
          id: requirement,
          projectId: p.id,
          pieceId: piece,
          colourwayId,
          name: 'Marigold',
          lab: { L: 70, a: 20, b: 70 },
          illuminant: 'D65',
          tolerance: null,
        } as never,
      },
    ]);
    await p.change('Remove', [{ kind: 'piece', id: piece, revision: 1, value: null }]);
    expect((await p.document()).requirements).toEqual([]);
    await h.call('undo', { projectId: p.id }, { id: randomUUID() as ChangeId });
    expect((await p.document()).requirements.map((r) => r.value.name)).toEqual(['Marigold']);
  });
});

describe('bad input', () => {
  it('is refused with the path of each bad field, and changes nothing', async () => {
    const p = await newProject();
    const bad = await h.problem(
      'change',
      { projectId: p.id },
      { id: randomUUID(), label: '', edits: [{ ...pieceEdit(p.id, randomUUID(), 'A', null), revision: 0 }] },
    );
    expect(bad.status).toBe(400);
    expect(bad.errors.map((e) => e.path)).toEqual(expect.arrayContaining(['label', 'edits.0.revision']));
    expect((await p.document()).pieces).toEqual([]);
  });
  it('names unknown ids, foreign projects and malformed JSON', async () => {
    const p = await newProject();
    const other = await newProject();
    expect((await h.problem('getProject', { projectId: randomUUID() })).code).toBe('not-found');
    expect((await h.problem('getProject', { projectId: 'x' })).status).toBe(404);
    expect(
      (
        await h.problem(
          'change',
          { projectId: p.id },
          { id: randomUUID(), label: 'x', edits: [pieceEdit(other.id, randomUUID(), 'A', null)] },
        )
      ).code,
    ).toBe('invalid-input');
    const broken = await fetch(`${h.url}/api/projects`, {
      method: 'POST',
      body: '{"name":',
      headers: { 'content-type': 'application/json' },
    });
    expect([broken.status, broken.headers.get('content-type')?.split(';')[0]]).toEqual([
      400,
      'application/problem+json',
    ]);
    expect((await fetch(`${h.url}/api/nothing`)).status).toBe(404);
  });
  it('from another site or for another host name is refused', async () => {
    const cross = await fetch(`${h.url}/api/projects`, {
      method: 'POST',
      body: '{"name":"x"}',
      headers: { 'content-type': 'application/json', 'sec-fetch-site': 'cross-site' },
    });
    expect(cross.status).toBe(400);
  });
});

it('describes every route it serves in OpenAPI', async () => {
  const { paths } = (await h.call('openapi')) as unknown as { paths: Record<string, object> };
  expect(Object.keys(paths).length).toBeGreaterThan(12);
  for (const [path, methods] of Object.entries(paths))
    for (const method of Object.keys(methods)) {
      const response = await fetch(h.url + path.replaceAll(/\{\w+\}/g, randomUUID()), {
        method: method.toUpperCase(),
        headers: { accept: '*/*' },
      });
      const body = await response.text();
      const detail = response.ok || !body ? '' : (JSON.parse(body) as { detail: string }).detail;
      // a route that is not registered is answered with “There is no GET /api/…”
      expect(detail, `${method} ${path}`).not.toMatch(/^There is no [A-Z]+ /);
      // what is asked for by its head alone says so by its status: it lacks the protocol's version here
      if (method === 'head') expect(response.status, path).toBe(400);
    }
});

describe('undo and redo', () => {
  it('with an id that was used answer as the first time, and step once', async () => {
    const p = await newProject();
    await p.change('First', [pieceEdit(p.id, randomUUID(), 'A', null)]);
    await p.change('Second', [pieceEdit(p.id, randomUUID(), 'B', null)]);
    const id = randomUUID() as ChangeId;
    const first = await h.call('undo', { projectId: p.id }, { id });
    expect(await h.call('undo', { projectId: p.id }, { id })).toEqual(first);
    expect((await p.document()).pieces.map((x) => x.value.name)).toEqual(['A']);
    const redo = randomUUID() as ChangeId;
    await h.call('redo', { projectId: p.id }, { id: redo });
    await h.call('redo', { projectId: p.id }, { id: redo });
    // both stand at position 0: in which order they come is not what this is about
    expect((await p.document()).pieces.map((x) => x.value.name).sort()).toEqual(['A', 'B']);
    const { rows } = await h.pool.query('select direction, who from history_step where project_id = $1 order by at', [
      p.id,
    ]);
    expect(rows).toEqual([
      { direction: 'undo', who: 'local' },
      { direction: 'redo', who: 'local' },
    ]);
  });
  it('without an id, or with one that is none, are refused and step nowhere', async () => {
    const p = await newProject();
    await p.change('First', [pieceEdit(p.id, randomUUID(), 'A', null)]);
    expect((await h.problem('undo', { projectId: p.id }, {})).errors.map((e) => e.path)).toEqual(['id']);
    expect((await h.problem('undo', { projectId: p.id }, { id: 'x' })).status).toBe(400);
    expect((await p.document()).pieces).toHaveLength(1);
  });
});

describe('what one thing of a kind there may be', () => {
  it('a second recipe of a piece in a colourway is a conflict that says so, and changes nothing', async () => {
    const p = await newProject();
    const pieceId = randomUUID() as PieceId;
    const colourwayId = (await p.document()).colourways[0]!.value.id;
    await p.change('Add', [pieceEdit(p.id, pieceId, 'A', null)]);
    const recipe = (id: string) =>
      ({
        kind: 'recipe',
        id,
        revision: null,
        value: {
          id,
          projectId: p.id,
          pieceId,
          colourwayId,
          match: { long: 1, middle: 1, short: 1 },
          repaint: { on: false, sheen: 1 },
          finer: NO_FINER,
          shift: { exposureStops: 0, hueDeg: 0, saturation: 1, density: 0 },
          strength: 1,
          animated: {},
        },
      }) as unknown as Edit;
    await p.change('Recolour', [recipe(randomUUID())]);
    const problem = await h.problem(
      'change',
      { projectId: p.id },
      { id: randomUUID(), label: 'x', edits: [recipe(randomUUID())] },
    );
    expect([problem.status, problem.code]).toEqual([409, 'conflict']);
    expect(problem.detail).toContain('There is one of these already');
    expect((await p.document()).recipes).toHaveLength(1);
  });
  it('removing a colourway takes its requirements and recipes along, not the pieces', async () => {
    const p = await newProject();
    const [pieceId, requirementId, colourwayId] = [randomUUID() as PieceId, randomUUID(), randomUUID()];
    const colourway = {
      kind: 'colourway',
      id: colourwayId,
      revision: null,
      value: { id: colourwayId, projectId: p.id, name: 'Plum', position: 1 },
    };
    await p.change('Add', [pieceEdit(p.id, pieceId, 'A', null), colourway as unknown as Edit]);
    await p.change('Require', [
      {
        kind: 'requirement',
        id: requirementId,
        revision: null,
        value: {
          id: requirementId,
          projectId: p.id,
          pieceId,
          colourwayId,
          name: 'Plum',
          lab: { L: 30, a: 20, b: -10 },
          illuminant: 'D65',
          tolerance: null,
        },
      } as never,
    ]);
    await p.change('Remove', [{ ...colourway, revision: 1, value: null } as unknown as Edit]);
    const document = await p.document();
    expect([document.colourways.length, document.requirements.length, document.pieces.length]).toEqual([1, 0, 1]);
  });
});

describe('what is kept for judging', () => {
  const numbers = {
    match: { long: 1, middle: 1, short: 1 },
    repaint: { on: false, sheen: 1 },
    finer: { ...NO_FINER, dye: { on: true, concentration: 1.5 } },
    shift: { exposureStops: 0, hueDeg: 20, saturation: 1, density: 0 },
    strength: 1,
  };
  it('a version comes back as it was kept, goes with its piece, and comes back with one undo', async () => {
    const p = await newProject();
    const [pieceId, id] = [randomUUID() as PieceId, randomUUID()];
    const colourwayId = (await p.document()).colourways[0]!.value.id;
    const value = { id, projectId: p.id, pieceId, colourwayId, name: 'As sent', numbers, animated: {} };
    await p.change('Add', [pieceEdit(p.id, pieceId, 'A', null)]);
    await p.change('Keep', [{ kind: 'version', id, revision: null, value } as never]);
    expect((await p.document()).versions).toEqual([{ value, revision: 1 }]);
    await p.change('Remove', [{ kind: 'piece', id: pieceId, revision: 1, value: null }]);
    expect((await p.document()).versions).toEqual([]);
    await h.call('undo', { projectId: p.id }, { id: randomUUID() as ChangeId });
    expect((await p.document()).versions.map((v) => v.value)).toEqual([value]);
  });
  it('numbers of a tool out of their range are refused with their path', async () => {
    const p = await newProject();
    const [pieceId, id] = [randomUUID() as PieceId, randomUUID()];
    const colourwayId = (await p.document()).colourways[0]!.value.id;
    const finer = { ...NO_FINER, dye: { on: true, concentration: 99 } };
    const value = { ...numbers, finer, id, projectId: p.id, pieceId, colourwayId, animated: {} };
    const refused = await h.problem(
      'change',
      { projectId: p.id },
      { id: randomUUID() as ChangeId, label: 'x', edits: [{ kind: 'recipe', id, revision: null, value } as never] },
    );
    expect([refused.status, JSON.stringify(refused)]).toEqual([
      400,
      expect.stringContaining('finer.dye.concentration'),
    ]);
  });
  it('a version of another project’s piece is refused', async () => {
    const [own, other] = [await newProject(), await newProject()];
    const [pieceId, id] = [randomUUID() as PieceId, randomUUID()];
    await other.change('Add', [pieceEdit(other.id, pieceId, 'A', null)]);
    const colourwayId = (await own.document()).colourways[0]!.value.id;
    const value = { id, projectId: own.id, pieceId, colourwayId, name: 'x', numbers, animated: {} };
    const refused = await h.problem(
      'change',
      { projectId: own.id },
      { id: randomUUID() as ChangeId, label: 'x', edits: [{ kind: 'version', id, revision: null, value } as never] },
    );
    expect(JSON.stringify(refused)).toContain('names a piece of another project');
  });
});

it('pieces stand in the order they are recoloured in, by position and not by when they were made', async () => {
  const p = await newProject();
  const piece = (name: string, position: number): Edit => {
    const id = randomUUID() as PieceId;
    return {
      kind: 'piece',
      id,
      revision: null,
      value: { id, projectId: p.id, name, kind: 'prop', position, partOf: null },
    };
  };
  await p.change('Add', [piece('C', 2), piece('A', 0), piece('B', 1)]);
  expect((await p.document()).pieces.map((x) => x.value.name)).toEqual(['A', 'B', 'C']);
});

it('two that write a row of a project and then edit it take turns, and neither is refused', async () => {
  const { id, document } = await newProject();
  const both = [await h.pool.connect(), await h.pool.connect()];
  try {
    for (const db of both) {
      await db.query('begin');
      await insertCarryRun(db, { id: randomUUID(), projectId: id, isBackward: false });
    }
    const ends = both.map(async (db, n) => {
      const edit = pieceEdit(id, randomUUID(), `Piece ${n}`, null);
      await applyChangeWithin(db, id, { id: randomUUID() as ChangeId, label: 'Make', edits: [edit] }, LOCAL);
      await db.query('commit');
    });
    await Promise.all(ends);
  } finally {
    for (const db of both) db.release();
  }
  expect((await document()).pieces.map((p) => p.value.name).toSorted()).toEqual(['Piece 0', 'Piece 1']);
});
