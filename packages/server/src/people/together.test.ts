// Two people on one project.
import { randomUUID } from 'node:crypto';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { EVENTS, type ChangeId, type Edit, type Piece, type PieceId, type Presence } from '@mellow/contract';
import { startHarness, until, type Harness } from '../testing/harness.ts';
import { signedIn, type Browser } from '../testing/people.ts';

let h: Harness;
let anna: Awaited<ReturnType<typeof signedIn>>;
let ben: Awaited<ReturnType<typeof signedIn>>;
let projectId: string;
beforeAll(async () => {
  h = await startHarness({ people: true });
  anna = await signedIn(h, 'anna', 'member');
  ben = await signedIn(h, 'ben', 'guest');
  projectId = (await anna.call('createProject', {}, { name: 'Shared' })).id;
  await anna.call('giveRole', { projectId }, { personId: ben.person.id, role: 'editor' });
});
afterAll(() => h.close());

async function piece(id: string) {
  const { pieces } = await anna.call('getProject', { projectId });
  return pieces.find((p) => p.value.id === id);
}
/** Somebody changes fields of a piece as it stands now; of one that is not there yet: makes it. */
async function edit(who: Browser, label: string, id: string, fields: Partial<Piece> | null) {
  const now = await piece(id);
  const fresh = { id: id as PieceId, projectId, name: 'Lark', kind: 'garment', position: 0, partOf: null } as Piece;
  const value = fields && { ...(now?.value ?? fresh), ...fields };
  const edits = [{ kind: 'piece', id, revision: now?.revision ?? null, value } as Edit];
  return who.call('change', { projectId }, { id: randomUUID() as ChangeId, label, edits });
}
const undo = (who: Browser) => who.call('undo', { projectId }, { id: randomUUID() as ChangeId });
const redo = (who: Browser) => who.call('redo', { projectId }, { id: randomUUID() as ChangeId });

describe('undo', () => {
  it('takes back one’s own last step, not the other’s later one', async () => {
    const id = randomUUID();
    await edit(anna, 'Add', id, {});
    await edit(anna, 'Rename', id, { name: 'Wren' });
    const answer = await edit(ben, 'Move', id, { position: 3 });
    expect(answer.history).toEqual({ undo: 'Move', redo: null });
    expect((await undo(anna)).history).toEqual({ undo: 'Add', redo: 'Rename' });
    expect((await piece(id))!.value).toMatchObject({ name: 'Lark', position: 3 });
    // the other's redo is not offered, and their new step does not drop it
    expect((await ben.call('getProject', { projectId })).history).toEqual({ undo: 'Move', redo: null });
    await edit(ben, 'Move again', id, { position: 4 });
    await redo(anna);
    expect((await piece(id))!.value).toMatchObject({ name: 'Wren', position: 4 });
    const log = await ben.call('listChanges', { projectId });
    expect(log.slice(0, 3).map(({ who, label }) => [who, label])).toEqual([
      ['Ben', 'Move again'],
      ['Ben', 'Move'],
      ['Anna', 'Rename'],
    ]);
  });
  it('says who has changed the same since, leaves it, and goes on with the step before', async () => {
    const id = randomUUID();
    await edit(anna, 'Add', id, {});
    await edit(anna, 'Order', id, { position: 7 });
    await edit(anna, 'Rename', id, { name: 'Wren' });
    await edit(ben, 'Call it Swift', id, { name: 'Swift' });
    const refused = await anna.send('undo', { projectId }, { id: randomUUID() });
    expect(refused.status).toBe(409);
    expect(((await refused.json()) as { detail: string }).detail).toBe(
      '“Rename” cannot be taken back: Ben has changed the same since (“Call it Swift”). ' +
        'It stays as it is and is passed over now.',
    );
    expect((await piece(id))!.value).toMatchObject({ name: 'Swift', position: 7 });
    expect((await undo(anna)).history.redo).toBe('Order');
    expect((await piece(id))!.value).toMatchObject({ name: 'Swift', position: 0 });
  });
  it('does not remove a thing that the other has built on', async () => {
    const id = randomUUID();
    await edit(anna, 'Add', id, {});
    await edit(ben, 'Its name', id, { name: 'Swift' });
    expect((await anna.send('undo', { projectId }, { id: randomUUID() })).status).toBe(409);
    expect((await piece(id))!.value.name).toBe('Swift');
  });
  it('brings back what one has removed, though the other has gone on elsewhere', async () => {
    const [id, other] = [randomUUID(), randomUUID()];
    await edit(anna, 'Add', id, {});
    await edit(anna, 'Remove', id, null);
    await edit(ben, 'Add another', other, {});
    await undo(anna);
    expect((await piece(id))!.value.name).toBe('Lark');
    expect(await piece(other)).toBeDefined();
  });
});

describe('an edit', () => {
  it('has what was measured looked through, once however many there are', async () => {
    const queued = async () =>
      (await h.pool.query(`select 1 from graphile_worker.jobs where key = $1`, [`lookThrough:${projectId}`])).rowCount;
    await h.pool.query(`delete from graphile_worker._private_jobs`);
    expect(await queued()).toBe(0);
    for (let i = 0; i < 3; i++) await edit(anna, 'Add', randomUUID(), {});
    expect(await queued()).toBe(1);
    await h.pool.query(`delete from graphile_worker._private_jobs`);
    await undo(anna);
    expect(await queued()).toBe(1);
  });
});

describe('an edit of what the other has changed meanwhile', () => {
  it('is refused with what stands now, and nothing is overwritten', async () => {
    const id = randomUUID();
    await edit(anna, 'Add', id, {});
    const read = (await piece(id))!;
    await edit(ben, 'Rename', id, { name: 'Swift' });
    const edits = [{ kind: 'piece', id, revision: read.revision, value: { ...read.value, position: 9 } }];
    const refused = await anna.send('change', { projectId }, { id: randomUUID(), label: 'Order', edits });
    expect(refused.status).toBe(409);
    expect(await refused.json()).toMatchObject({ code: 'stale-revision', current: { value: { name: 'Swift' } } });
  });
});

/** What a page hears, as long as it is open. */
async function hear(who: Browser, page: string) {
  const ended = new AbortController();
  const response = await fetch(`${h.url}/api/projects/${projectId}/events?page=${page}`, {
    headers: { cookie: who.cookie },
    signal: ended.signal,
  });
  let text = '';
  const reading = (async () => {
    for await (const chunk of response.body!.pipeThrough(new TextDecoderStream())) text += chunk;
  })().catch(() => undefined);
  const last = (): Presence[] => {
    const all = [...text.matchAll(/event: present\ndata: (.*)\n/g)];
    return EVENTS.present.parse(JSON.parse(all.at(-1)?.[1] ?? '{"here":1}')).people;
  };
  const close = async () => {
    ended.abort();
    await reading;
  };
  return { last, changes: () => text.match(/event: change/g)?.length ?? 0, close };
}

describe('who has the project open', () => {
  it('is told to each, with the shot that each is at, until they leave', async () => {
    const [annas, bens, shotId] = [randomUUID(), randomUUID(), randomUUID()];
    const [ears, hers] = [await hear(ben, bens), await hear(anna, annas)];
    await anna.call('here', { projectId }, { page: annas, shotId: shotId as never });
    await until('Anna’s shot', async () => ears.last().some((p) => p.page === annas && p.shotId === shotId));
    expect(ears.last()).toContainEqual({ page: annas, shotId, personId: anna.person.id, name: 'Anna' });
    // nobody says it for another
    await ben.call('here', { projectId }, { page: annas, shotId: null });
    await ben.call('here', { projectId }, { page: bens, shotId: shotId as never });
    await until('Ben’s shot', async () => ears.last().some((p) => p.page === bens && p.shotId === shotId));
    expect(ears.last().find((p) => p.page === annas)!.shotId).toBe(shotId);
    await hers.close();
    await until('her leaving', async () => !ears.last().some((p) => p.page === annas));
    await ears.close();
  });
  it('hears of the other’s edits', async () => {
    const ears = await hear(ben, randomUUID());
    await edit(anna, 'Add', randomUUID(), {});
    await until('the edit', async () => ears.changes() > 0);
    await ears.close();
  });
});

describe('who is shut out while others stay', () => {
  it('hears nothing more, and the others hear that they have gone, however many are told at once', async () => {
    const people = await Promise.all(['uma', 'vera', 'wes'].map((name) => signedIn(h, name, 'guest')));
    const ears = [];
    for (const { person } of people)
      await anna.call('giveRole', { projectId }, { personId: person.id, role: 'viewer' });
    // each in two windows
    for (const person of [...people, ...people]) ears.push(await hear(person, randomUUID()));
    const hers = await hear(anna, randomUUID());
    await until('all of them', async () => new Set(hers.last().map((p) => p.personId)).size === 4);
    for (const { person } of people) await anna.call('giveRole', { projectId }, { personId: person.id, role: null });
    await until('their going', async () => hers.last().every((p) => p.personId === anna.person.id));
    await edit(anna, 'Add', randomUUID(), {});
    await until('the edit', async () => hers.changes() > 0);
    expect(ears.map((e) => e.changes())).toEqual(ears.map(() => 0));
    for (const each of [...ears, hers]) await each.close();
  });
});
