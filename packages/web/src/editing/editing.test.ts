// The one way to edit, from the document to a fake server and back: what is shown, sent, told and put aside.
import { afterAll, afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { ProjectDocument } from '@mellow/contract';
import { documentWith } from '../commands/testing.ts';

const PROJECT = '0f8b2a34-1111-4222-8333-444455556666';
const CUP = '7c1de5a0-aaaa-4bbb-8ccc-ddddeeeeffff';
const kept = new Map<string, string>();
const storage = {
  get length() {
    return kept.size;
  },
  key: (i: number) => [...kept.keys()][i] ?? null,
  getItem: (k: string) => kept.get(k) ?? null,
  setItem: (k: string, v: string) => void kept.set(k, v),
  removeItem: (k: string) => void kept.delete(k),
};
interface Sent {
  path: string;
  method: string;
  body: { id: string; label?: string; edits: { id: string; revision: number | null }[] };
}
let sent: Sent[];
type Answer = [status: number, body: unknown] | 'away';
/** What the server answers; a string is an outage. */
let answer: (request: Sent) => Answer | Promise<Answer>;
const locks: string[] = [];
/** Leaves the page, as far as it listens to that. */
let leave: () => void = () => undefined;
afterAll(() => vi.unstubAllGlobals());
vi.stubGlobal('addEventListener', (event: string, listener: () => void) => {
  if (event === 'pagehide') leave = listener;
});
vi.stubGlobal('localStorage', storage);
vi.stubGlobal('navigator', {
  locks: {
    request: (name: string, ...rest: unknown[]) => {
      locks.push(name);
      const held = rest.at(-1) as (lock: object | null) => unknown;
      return Promise.resolve(name.endsWith('open') ? held(null) : held({}));
    },
  },
});
vi.stubGlobal('fetch', async (path: string, init: RequestInit) => {
  const request = { path, method: init.method!, body: JSON.parse((init.body as string | undefined) ?? '{}') as never };
  sent.push(request);
  const said = await answer(request);
  if (said === 'away') throw new TypeError('away');
  return new Response(JSON.stringify(said[1]), { status: said[0] });
});
// the outbox takes what is in the storage when the page is opened: only after the stubs
const { api } = await import('../data/api.ts');
const { store } = await import('../app/store.ts');
const { dragged } = await import('../view/draftSlice.ts');
const { followHand } = await import('./drag.ts');
const { documentOf, edit, hasUnsent, onEditProblem, outbox, settled, startSaving, stepHistory, tellProblem, underWay } =
  await import('./editing.ts');

const problem = (status: number, detail: string): [number, unknown] => [
  status,
  { type: 'about:blank', title: 'No', status, detail, code: 'conflict', errors: [] },
];
const NOTHING = { undo: null, redo: null };
const saved = ({ body }: Sent): [number, unknown] => [
  200,
  {
    seq: 1,
    revisions: Object.fromEntries(body.edits.map((e) => [e.id, (e.revision ?? 0) + 1])),
    history: { undo: body.label ?? null, redo: null },
  },
];
const cup = { id: CUP, projectId: 'p', name: 'Mug', kind: 'product', position: 0 };
const renamed = (name: string) => ({
  label: `Rename to ${name}`,
  edits: [{ kind: 'piece', id: CUP, value: { ...cup, name } }] as never[],
});
const nameNow = () => documentOf(PROJECT)!.pieces[0]!.value.name;
const said: string[] = [];
onEditProblem((text) => void said.push(text));

beforeEach(async () => {
  [sent, said.length, answer] = [[], 0, saved];
  const document = { ...documentWith([]), pieces: [{ value: cup, revision: 1 }] };
  await store.dispatch(api.util.upsertQueryData('getProject', PROJECT, document as unknown as ProjectDocument));
});
afterEach(() => outbox.dismiss());

it('shows an edit at once, lets go of the draft, and sends it against the revision the page holds', async () => {
  store.dispatch(dragged({ sighting: { sightingId: 'x', layers: [] } }));
  edit(PROJECT, renamed('Beaker'));
  expect([nameNow(), store.getState().draft, hasUnsent()]).toEqual(['Beaker', {}, true]);
  edit(PROJECT, renamed('Glass'));
  await settled();
  expect(sent.map((s) => [s.path, s.method, s.body.label, s.body.edits[0]!.revision])).toEqual([
    [`/api/projects/${PROJECT}/changes`, 'POST', 'Rename to Beaker', 1],
    [`/api/projects/${PROJECT}/changes`, 'POST', 'Rename to Glass', 2],
  ]);
  expect(sent[0]!.body.id).not.toBe(sent[1]!.body.id);
  expect([documentOf(PROJECT)!.pieces[0]!.revision, documentOf(PROJECT)!.history.undo]).toEqual([3, 'Rename to Glass']);
  expect([hasUnsent(), store.getState().saving.state, said]).toEqual([false, 'saved', []]);
});

it('sends a removal against the revision of what the page holds no more, edits just before it included', async () => {
  edit(PROJECT, renamed('Beaker'));
  edit(PROJECT, { label: 'Remove Beaker', edits: [{ kind: 'piece', id: CUP, value: null }] as never[] });
  expect(documentOf(PROJECT)!.pieces).toEqual([]);
  await settled();
  expect(sent.map((s) => [s.body.label, s.body.edits[0]!.revision])).toEqual([
    ['Rename to Beaker', 1],
    ['Remove Beaker', 2],
  ]);
});

it('makes no step of nothing, and no label longer than the server takes', async () => {
  edit(PROJECT, { label: 'Nothing', edits: [] });
  edit(PROJECT, { ...renamed('Beaker'), label: 'x'.repeat(300) });
  await settled();
  expect(sent.map((s) => s.body.label?.length)).toEqual([200]);
});

it('puts what the server refuses aside, says which and why, and sends what comes later', async () => {
  answer = (request) => (request.body.label === 'Rename to Bad' ? problem(422, 'No such name.') : saved(request));
  edit(PROJECT, renamed('Bad'));
  edit(PROJECT, renamed('Good'));
  await settled();
  expect(said).toEqual(['“Rename to Bad” was not saved. No such name.']);
  expect(outbox.aside.map((a) => [a.request.label, a.reason])).toEqual([['Rename to Bad', 'No such name.']]);
  expect(store.getState().saving.aside).toHaveLength(1);
  // in between the project is fetched, for what the refused one would have left is shown no longer
  expect(sent.map((s) => s.body.label ?? s.path)).toEqual([
    'Rename to Bad',
    `/api/projects/${PROJECT}`,
    'Rename to Good',
  ]);
});

it('tries again where the server breaks, and waits where it or its database is away', async () => {
  vi.useFakeTimers();
  try {
    const answers = ['away', [503, {}], [500, {}], [502, 'no JSON']] as ('away' | [number, unknown])[];
    answer = (request) => answers.shift() ?? saved(request);
    edit(PROJECT, renamed('Beaker'));
    const done = settled();
    await vi.advanceTimersByTimeAsync(600_000);
    await done;
  } finally {
    vi.useRealTimers();
  }
  expect([sent.length, new Set(sent.map((s) => s.body.id)).size, said]).toEqual([5, 1, []]);
});

it('undoes after every edit is saved, under one id however often it must ask, and fetches the project', async () => {
  vi.useFakeTimers();
  try {
    let breaks = 2;
    answer = (request) => {
      if (request.path.endsWith('/undo'))
        return breaks-- > 0 ? [500, {}] : [200, { seq: 2, revisions: {}, history: NOTHING }];
      return request.path.endsWith('/changes') ? saved(request) : problem(404, 'gone');
    };
    edit(PROJECT, renamed('Beaker'));
    const done = stepHistory(PROJECT, 'undo');
    await vi.advanceTimersByTimeAsync(60_000);
    await done;
  } finally {
    vi.useRealTimers();
  }
  const paths = sent.map((s) => s.path.split('/').at(-1));
  expect(paths).toEqual(['changes', 'undo', 'undo', 'undo', PROJECT]);
  const ids = sent.filter((s) => s.path.endsWith('/undo')).map((s) => s.body.id);
  expect(new Set(ids).size).toBe(1);
});

/** What is waited for until it is opened. */
function gate() {
  let open!: () => void;
  const opened = new Promise<void>((resolve) => (open = resolve));
  return { open, opened };
}

describe('while a step is on its way to the server', () => {
  const cup = { id: CUP, projectId: PROJECT, name: 'Mug', kind: 'product', position: 0 };
  /** A whole project as the server tells it, of one piece. */
  const holding = (piece: typeof cup, revision: number) =>
    ({
      ...{ shots: [], colourways: [], requirements: [], recipes: [], sightings: [], tracks: [], versions: [] },
      ...{ stills: [], trackedFrames: {}, carried: {}, media: [], plates: [], proxies: {}, history: NOTHING },
      project: {
        value: { id: PROJECT, name: 'Bar', tolerance: 2, referenceShotId: null, look: null },
        revision: 1,
      },
      pieces: [{ value: piece, revision }],
      role: 'editor',
    }) as unknown as ProjectDocument;
  /** A server that holds a mug, renamed to Beaker as its last step; it undoes that once `undo` is called. */
  function server() {
    const held = { name: 'Beaker', kind: 'product', revision: 2 };
    const undoing = gate();
    let isRefused = false;
    answer = async ({ path, body }) => {
      if (path.endsWith('/undo')) {
        await undoing.opened;
        Object.assign(held, { name: 'Mug', revision: held.revision + 1 });
        return [200, { seq: 2, revisions: {}, history: NOTHING }];
      }
      const { revision, ...value } = held;
      if (path === `/api/projects/${PROJECT}`) return [200, holding({ ...cup, ...value }, revision)];
      const [edit] = body.edits as unknown as [{ revision: number; value: typeof cup }];
      isRefused ||= edit.revision !== held.revision;
      if (isRefused) return problem(409, 'It was made on an older state.');
      Object.assign(held, { ...edit.value, revision: held.revision + 1 });
      return [200, { seq: 3, revisions: { [CUP]: held.revision }, history: NOTHING }];
    };
    return { held, undo: undoing.open };
  }
  beforeEach(async () => {
    const document = holding({ ...cup, name: 'Beaker' }, 2);
    await store.dispatch(api.util.upsertQueryData('getProject', PROJECT, document));
  });
  const asProp = (name: string) => ({
    label: 'Make it a prop',
    edits: [{ kind: 'piece', id: CUP, value: { ...cup, name, kind: 'prop' } }] as never[],
  });

  it('what is edited is shown, sent after it, and takes nothing of it back', async () => {
    const { held, undo } = server();
    const undone = stepHistory(PROJECT, 'undo');
    await vi.waitUntil(() => sent.length > 0, { interval: 0 });
    edit(PROJECT, asProp('Beaker'));
    undo();
    expect(documentOf(PROJECT)!.pieces[0]!.value).toMatchObject({ name: 'Beaker', kind: 'prop' });
    await undone;
    expect(documentOf(PROJECT)!.pieces[0]!.value).toMatchObject({ name: 'Mug', kind: 'prop' });
    // should the page be closed before the server answers
    expect([...kept.values()].join()).toContain('"name":"Mug"');
    await settled();
    expect(held).toMatchObject({ name: 'Mug', kind: 'prop', revision: 4 });
    expect([said, outbox.aside]).toEqual([[], []]);
    expect(sent.map((s) => s.path.split('/').at(-1))).toEqual(['undo', PROJECT, 'changes']);
  });

  it('what is edited of what is gone with it is put aside, and says why', async () => {
    const { held, undo } = server();
    const now = answer;
    const gone = { ...holding(cup, 1), pieces: [] };
    answer = async (request) => (request.path === `/api/projects/${PROJECT}` ? [200, gone] : now(request));
    const watched = store.dispatch(api.endpoints.getProject.initiate(PROJECT));
    const undone = stepHistory(PROJECT, 'undo');
    await vi.waitUntil(() => sent.length > 0, { interval: 0 });
    edit(PROJECT, asProp('Beaker'));
    undo();
    await undone;
    await settled();
    await vi.waitUntil(() => documentOf(PROJECT)!.pieces.length === 0, { interval: 0 });
    watched.unsubscribe();
    expect(said).toEqual(['“Make it a prop” was not saved. What it changes was undone or redone just before.']);
    expect([held.kind, outbox.aside.map((a) => a.request.label)]).toEqual(['product', ['Make it a prop']]);
  });

  it('another waits for it, and for what was edited in between', async () => {
    const { undo } = server();
    const steps = [stepHistory(PROJECT, 'undo')];
    await vi.waitUntil(() => sent.length > 0, { interval: 0 });
    edit(PROJECT, asProp('Beaker'));
    steps.push(stepHistory(PROJECT, 'undo'));
    undo();
    await Promise.all(steps);
    expect(sent.map((s) => s.path.split('/').at(-1))).toEqual(['undo', PROJECT, 'changes', 'undo', PROJECT]);
    expect(said).toEqual([]);
  });

  it('a second one waits until the page knows what the first left', async () => {
    const { undo } = server();
    const steps = [stepHistory(PROJECT, 'undo'), stepHistory(PROJECT, 'redo')];
    const now = answer;
    answer = (request) => (request.path.endsWith('/redo') ? problem(409, 'Nothing.') : now(request));
    undo();
    await Promise.all(steps);
    expect(sent.map((s) => s.path.split('/').at(-1))).toEqual(['undo', PROJECT, 'redo', PROJECT]);
  });

  it('what is removed goes with the revision that it left', async () => {
    const { undo } = server();
    const undone = stepHistory(PROJECT, 'undo');
    await vi.waitUntil(() => sent.length > 0, { interval: 0 });
    edit(PROJECT, { label: 'Remove it', edits: [{ kind: 'piece', id: CUP, value: null }] as never[] });
    undo();
    await undone;
    expect(documentOf(PROJECT)!.pieces).toEqual([]);
    answer = saved;
    await settled();
    expect(sent.at(-1)!.body.edits[0]!.revision).toBe(3);
  });

  it('what was fetched before it was done is fetched again', async () => {
    const { held, undo } = server();
    const early = gate();
    const now = answer;
    // the project as it was when it was asked for, told late
    answer = async (request) => {
      const said = await now(request);
      if (sent.indexOf(request) === 0) await early.opened;
      return said;
    };
    const fetched = store.dispatch(api.endpoints.getProject.initiate(PROJECT, { forceRefetch: true }));
    const undone = stepHistory(PROJECT, 'undo');
    await vi.waitUntil(() => sent.length > 1, { interval: 0 });
    undo();
    await vi.waitUntil(() => held.revision === 3, { interval: 0 });
    early.open();
    await Promise.all([fetched, undone]);
    expect(documentOf(PROJECT)!.pieces[0]).toMatchObject({ value: { name: 'Mug' }, revision: held.revision });
  });
});

it('says why a step could not be undone, and asks only once where the server refuses', async () => {
  answer = ({ path }) => (path.endsWith('/redo') ? problem(409, 'There is nothing to redo.') : problem(404, 'gone'));
  await stepHistory(PROJECT, 'redo');
  expect([said, sent.length]).toEqual([['There is nothing to redo.'], 2]);
  tellProblem(new Error('lost'));
  tellProblem('broken');
  expect(said.slice(1)).toEqual(['lost', 'broken']);
});

it('begins with what pages that were closed left behind, and leaves those of open pages to them', async () => {
  const left = (page: string) => {
    const request = { id: page, label: `From ${page}`, edits: [] };
    kept.set(`mellow:outbox:${page}`, JSON.stringify([{ projectId: PROJECT, request }]));
  };
  left('closed');
  left('open');
  startSaving();
  await settled();
  expect(sent.map((s) => s.body.label)).toEqual(['From closed']);
  expect(locks.filter((l) => /closed|open/.test(l))).toEqual(['mellow:page:closed', 'mellow:page:open']);
});

it('does not say saved of what is shown and waits for what belongs to it; keeps it when the page is left', async () => {
  startSaving();
  await settled();
  underWay.make(Promise.resolve('Beaker'), (name = 'Cup') => edit(PROJECT, renamed(name)));
  expect([store.getState().saving.state, hasUnsent()]).toEqual(['saving', false]);
  await settled();
  expect([nameNow(), store.getState().saving.state, sent.length]).toEqual(['Beaker', 'saved', 1]);

  underWay.make(new Promise<string>(() => undefined), (name = 'Cup') => edit(PROJECT, renamed(name)));
  leave();
  expect([...kept.values()].join()).toContain('Rename to Cup');
  await settled();
  expect([nameNow(), sent.length]).toEqual(['Cup', 2]);
});

it('follows a hand: a draft while it moves, one change when it lets go, nothing where no project is open', async () => {
  const moved = {
    draft: (_: ProjectDocument, to: number) =>
      to > 0 ? { sighting: { sightingId: 'x', layers: [{ name: `at ${to}` }] as never } } : undefined,
    change: (_: ProjectDocument, to: number, what: string) => (to > 0 ? renamed(`${what} ${to}`) : undefined),
  };
  followHand(PROJECT, moved, 3, 'drag');
  expect(store.getState().draft).toMatchObject({ sighting: { layers: [{ name: 'at 3' }] } });
  followHand(PROJECT, moved, 0, 'drag');
  expect(store.getState().draft).toMatchObject({ sighting: { layers: [{ name: 'at 3' }] } });
  followHand(PROJECT, moved, 0, 'done', 'Width');
  followHand('another', moved, 4, 'done', 'Width');
  expect(hasUnsent()).toBe(false);
  followHand(PROJECT, moved, 4, 'done', 'Width');
  await settled();
  expect([nameNow(), sent.map((s) => s.body.label), store.getState().draft]).toEqual([
    'Width 4',
    ['Rename to Width 4'],
    {},
  ]);
});

it('waits while one is signed out, or too fast, and sends nothing of somebody else’s', async () => {
  const person = { id: '1d0c3a52-1111-4222-8333-444455556666', login: 'anna', name: 'Anna', kind: 'guest' };
  const signedIn = { isAsked: true, person: { ...person, isActive: true, isReady: true }, provider: null };
  await store.dispatch(api.util.upsertQueryData('me' as never, undefined as never, signedIn as never));
  vi.useFakeTimers();
  try {
    const answers = [
      [401, {}],
      [429, {}],
    ] as [number, unknown][];
    answer = (request) => answers.shift() ?? saved(request);
    edit(PROJECT, renamed('Beaker'));
    const done = settled();
    await vi.advanceTimersByTimeAsync(600_000);
    await done;
  } finally {
    vi.useRealTimers();
  }
  expect([sent.length, said, store.getState().signIn.isWanted]).toEqual([3, [], true]);
  // left behind in this browser by another
  const [{ body }] = sent as [Sent];
  outbox.add({ projectId: PROJECT, request: { ...body, label: 'Theirs' } as never, by: 'another' });
  await settled();
  expect(sent.filter((s) => s.body.label === 'Theirs')).toEqual([]);
  expect(outbox.aside.map((a) => [a.by, a.reason])).toEqual([['another', expect.stringContaining('somebody else')]]);
});

it('makes no edit that its person may not make, and says why', async () => {
  const document = { ...documentOf(PROJECT)!, role: 'viewer' as const };
  await store.dispatch(api.util.upsertQueryData('getProject', PROJECT, document));
  edit(PROJECT, renamed('Beaker'));
  await settled();
  expect([nameNow(), sent, said]).toEqual(['Mug', [], ['You may look at this project, not change it.']]);
});
