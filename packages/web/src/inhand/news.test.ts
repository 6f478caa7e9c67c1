import { beforeEach, expect, it } from 'vitest';
import type { Job, RunResult } from '@mellow/contract';
import { store } from '../app/store.ts';
import { api } from '../data/api.ts';
import { toldTracks } from '../data/pending.ts';
import { handlersOf } from './news.ts';

const asked: string[][] = [];
let waits = false;
const heard = handlersOf(
  'p',
  store.dispatch,
  (tags) => void asked.push(tags.map(String)),
  () => waits,
);
const job = (more: Partial<Job>): Job => ({ id: 'j', kind: 'proxy', state: 'running', revision: 1, ...more }) as Job;
beforeEach(() => {
  asked.length = 0;
  waits = false;
});

it('an edit of others is fetched, after this page’s own; what was measured is not fresh by then', () => {
  heard.change({} as never);
  waits = true;
  heard.change({} as never);
  expect(asked).toEqual([
    ['Project', 'Measurements', 'Tracks', 'Verdicts'],
    ['Measurements', 'Verdicts'],
  ]);
});

it('a job’s news go into the list, and what it may have changed is fetched', async () => {
  await store.dispatch(api.util.upsertQueryData('jobs', 'p', []));
  heard.job(job({ kind: 'proxy' }));
  heard.job(job({ kind: 'render', state: 'done' }));
  heard.job(job({ kind: 'track', state: 'queued' }));
  heard.job(job({ kind: 'track', state: 'running' }));
  heard.job(job({ kind: 'track', state: 'done' }));
  expect(asked).toEqual([['Project'], ['Deliveries', 'Reviews'], [], [], ['Tracks', 'Project', 'Measurements']]);
  const { data } = api.endpoints.jobs.select('p')(store.getState());
  expect(data).toEqual([job({ kind: 'track', state: 'done' })]);
});

it('frames that a track has found are shown as they come, and kept for a fetch that began before them', async () => {
  await store.dispatch(api.util.upsertQueryData('tracks', 'p', []));
  const found = { runId: 'r', frames: [], stopped: null } as unknown as RunResult;
  const before = toldTracks.soFar();
  heard.tracking(found);
  expect(api.endpoints.tracks.select('p')(store.getState()).data).toEqual([found]);
  expect(toldTracks.since(before)).toEqual([found]);
  expect(asked).toEqual([]);
});

it('measured figures and what was said are fetched when they are there, everything when something was missed', () => {
  heard.measured({ sightingId: 's' as never });
  heard.reviewed({});
  heard.missed({});
  expect(asked).toEqual([
    ['Measurements'],
    ['Reviews', 'Verdicts'],
    ['Project', 'Measurements', 'Jobs', 'Deliveries', 'Tracks', 'Reviews', 'Verdicts'],
  ]);
});

it('who is here and how far measuring is stand in the tray, until it is measured', () => {
  const tray = () => store.getState().tray;
  heard.present({ people: [], here: 2 });
  heard.measuring({ sightingId: 's' as never, done: 3, total: 48 });
  heard.measuring({ sightingId: 't' as never, done: 1, total: 48 });
  heard.measuring({ sightingId: 's' as never, done: 4, total: 48 });
  expect(tray().here).toBe(2);
  expect(tray().measuring.map((m) => [m.sightingId, m.done])).toEqual([
    ['t', 1],
    ['s', 4],
  ]);
  heard.measuring({ sightingId: 't' as never, done: 48, total: 48 });
  heard.measured({ sightingId: 's' as never });
  expect(tray().measuring).toEqual([]);
});
