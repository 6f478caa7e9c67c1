import { expect, it } from 'vitest';
import type { Job, ProjectDocument, RunResult } from '@mellow/contract';
import { freshDocument, freshJobs, freshTracks } from './fresh.ts';
import type { Unsent } from '../editing/outbox.ts';
import { toldJobs, toldTracks, type Pending } from './pending.ts';

/** A server whose document holds one piece; what it answers is what it holds when it is asked. */
function server(name: string) {
  let asked = 0;
  const state = { name };
  const load =
    (meanwhile: () => void = () => undefined) =>
    async () => {
      asked++;
      const data = {
        project: { value: { id: 'p' }, revision: 1 },
        pieces: [{ value: { id: 'a', name: state.name }, revision: 1 }],
      } as unknown as ProjectDocument;
      await Promise.resolve();
      if (asked === 1) meanwhile();
      return { data };
    };
  return { state, load, asked: () => asked };
}
const renamed = (name: string, projectId = 'p'): Unsent =>
  ({
    projectId,
    request: {
      id: name,
      label: 'Rename',
      edits: [{ kind: 'piece', id: 'a', revision: null, value: { id: 'a', name } }],
    },
  }) as unknown as Unsent;
const nameOf = (document: ProjectDocument | undefined) => document!.pieces[0]!.value.name;

it('gives the document as it comes when nothing is edited, in one go', async () => {
  const s = server('Lark');
  expect(nameOf((await freshDocument(s.load(), { unsent: [], acknowledged: 4 }, 'p')).data)).toBe('Lark');
  expect(s.asked()).toBe(1);
});
it('asks again when an edit was acknowledged while it waited: the answer was older than the page', async () => {
  const s = server('Lark');
  const edits: Pending = { unsent: [renamed('Lark suitcase')], acknowledged: 0 };
  const load = s.load(() => {
    s.state.name = 'Lark suitcase';
    Object.assign(edits, { unsent: [], acknowledged: 1 });
  });
  expect(nameOf((await freshDocument(load, edits, 'p')).data)).toBe('Lark suitcase');
  expect(s.asked()).toBe(2);
});
it('lays edits that still wait over what comes, those of other projects not', async () => {
  const s = server('Lark');
  const edits: Pending = {
    unsent: [renamed('First'), renamed('Second'), renamed('Not this one', 'q')],
    acknowledged: 0,
  };
  expect(nameOf((await freshDocument(s.load(), edits, 'p')).data)).toBe('Second');
});
it('hands an error on', async () => {
  expect(
    await freshDocument(async () => ({ error: 'gone' }), { unsent: [renamed('x')], acknowledged: 0 }, 'p'),
  ).toEqual({ error: 'gone' });
});
it('keeps frames that were found while the tracks were fetched, and no older ones', async () => {
  const found = (frame: number): RunResult => ({
    runId: 'r',
    frames: [{ frame, motion: [1, 0, 0, 0, 1, 0, 0, 0, 1], confidence: 0.9 }],
    stopped: null,
  });
  toldTracks.remember(found(3));
  const { data } = await freshTracks(async () => {
    toldTracks.remember(found(5));
    return { data: [found(4)] };
  });
  expect(data!.map((r) => r.frames.map((f) => f.frame))).toEqual([[4, 5]]);
});
it('knows of a job that ended while the jobs were fetched, and of one that was begun', async () => {
  const job = (id: string, state: Job['state'], revision: number) => ({ id, state, revision }) as Job;
  toldJobs.remember(job('before', 'done', 1));
  const { data } = await freshJobs(async () => {
    toldJobs.remember(job('a', 'cancelled', 5));
    toldJobs.remember(job('a', 'running', 4));
    toldJobs.remember(job('c', 'queued', 1));
    return { data: [job('a', 'running', 3), job('b', 'done', 7)] };
  });
  expect(data!.map((j) => [j.id, j.state])).toEqual([
    ['c', 'queued'],
    ['a', 'cancelled'],
    ['b', 'done'],
  ]);
});
