// Whoever pulls the plug: SIGKILL in the middle of a render and right after an edit loses nothing acknowledged.
import { randomUUID } from 'node:crypto';
import { expect, test } from '@playwright/test';
import { finished } from './going.ts';
import { startServer, type TestServer } from './server.ts';

let server: TestServer;
test.beforeAll(async () => void (server = await startServer()));
test.afterAll(() => server.close());

const get = async <T>(path: string): Promise<T> => (await (await fetch(server.url + path)).json()) as T;
const post = async <T>(path: string, body: unknown): Promise<T> =>
  (await (
    await fetch(server.url + path, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify(body),
    })
  ).json()) as T;

/** The demo with nothing done yet: a render of it is short, and no track is there but the test's. */
const theProject = async () =>
  (await get<{ id: string; name: string }[]>('/api/projects')).find((p) => p.name === 'Slow Morning, from the start');

test('a killed server loses no acknowledged edit and takes the render up again', async () => {
  const card = await theProject();
  const path = `/api/projects/${card!.id}`;
  const document = await get<{
    shots: { value: { id: string } }[];
    colourways: { value: { id: string } }[];
    pieces: { value: { id: string; name: string }; revision: number }[];
  }>(path);
  const [delivery] = await post<{ id: string }[]>(`${path}/deliveries`, {
    shotIds: [document.shots[0]!.value.id],
    colourwayIds: [document.colourways[0]!.value.id],
    preset: 'ffv1',
  });
  const state = async () =>
    (await get<{ id: string; job: { state: string; done: number; total: number } }[]>(`${path}/deliveries`)).find(
      (d) => d.id === delivery!.id,
    )!.job;
  await finished(state, (job) => job.done > 3, 50);

  const { value, revision } = document.pieces[0]!;
  const answer = await post<{ revisions: Record<string, number> }>(`${path}/changes`, {
    id: randomUUID(),
    label: 'Rename',
    edits: [{ kind: 'piece', id: value.id, revision, value: { ...value, name: 'Renamed before the plug' } }],
  });
  expect(answer.revisions[value.id]).toBe(revision + 1);
  await server.kill();

  await server.start();
  const after = await get<typeof document>(path);
  expect(after.pieces[0]!.value.name).toBe('Renamed before the plug');
  const half = await fetch(`${server.url}/api/deliveries/${delivery!.id}/file`);
  if ((await state()).state !== 'done') expect(half.status).toBe(409);
  const end = await finished(state, (job) => job.state !== 'queued' && job.state !== 'running');
  expect(end.state).toBe('done');
  expect((await fetch(`${server.url}/api/deliveries/${delivery!.id}/file`)).status).toBe(200);
});

test('a killed server keeps every tracked frame and goes on behind the last', async () => {
  const card = await theProject();
  const path = `/api/projects/${card!.id}`;
  const shot = (await get<{ shots: { value: { id: string; projectId: string; name: string } }[] }>(path)).shots.find(
    (s) => s.value.name === '1 Platform',
  )!.value;
  const id = randomUUID();
  const corner = (x: number, y: number) => ({ x, y, inX: 0, inY: 0, outX: 0, outY: 0 });
  const value = {
    id,
    projectId: shot.projectId,
    shotId: shot.id,
    name: 'Case',
    referenceFrame: 0,
    region: { form: 'spline', points: [corner(250, 290), corner(545, 290), corner(545, 690), corner(250, 690)] },
    freedom: { move: true, turn: true, scale: true, shear: true, perspective: false },
    holdOuts: [],
    manual: [],
    runs: [],
  };
  await post(`${path}/changes`, {
    id: randomUUID(),
    label: 'Draw Case',
    edits: [{ kind: 'track', id, revision: null, value }],
  });
  await post(`${path}/track-runs`, { trackId: id, spans: [{ from: 0, to: 47 }] });
  const found = async () =>
    (await get<{ frames: { frame: number; motion: number[] }[] }[]>(`${path}/tracks`)).flatMap((r) => r.frames);
  await finished(found, (frames) => frames.length > 3, 50);
  await server.kill();

  await server.start();
  const kept = await found();
  expect(kept.length).toBeGreaterThan(3);
  await finished(found, (frames) => frames.length === 47);
  const all = await found();
  for (const frame of kept) expect(all.find((f) => f.frame === frame.frame)).toEqual(frame);
});
