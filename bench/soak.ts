// Editors at work for minutes: `npm run soak -- [EDITORS] [MINUTES]`. Each is signed in, has a project open, edits
// every few seconds, and fetches the project when somebody has changed it, as pages do. Told: how long an edit waits,
// how much memory the server has in each tenth of the time, how long anything held its event loop, at the end with an
// edit as large as one may be, and whether every acknowledged edit is there afterwards.
import { randomUUID } from 'node:crypto';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout } from 'node:timers/promises';
import { startServer } from '../e2e/server.ts';
import { heldMs, idleThread, longestMs, mean, megabytes } from './measures.ts';

const EDITORS = Number(process.argv[2] ?? 50);
const MINUTES = Number(process.argv[3] ?? 10);
/** So many work on one project. */
const ON_ONE = 5;
/** Between two edits of one editor, ms: about as a hand that turns one control after the other. */
const PAUSE_MS = 3000;
/** Somewhat less than the contract allows an edit. */
const LARGEST_BYTES = 7.9e6;
/** The run is looked at in so many parts. */
const PARTS = 10;
const PASSWORD = 'soaked through and through';

interface Stored {
  value: { id: string; name: string };
  revision: number;
}
interface Document {
  pieces: Stored[];
  shots: Stored[];
}

/** Whoever has signed in: requests with their cookie. */
async function comeIn(url: string, path: string) {
  const post = (at: string, body: unknown, cookie = '') =>
    fetch(url + at, {
      method: 'POST',
      headers: { 'content-type': 'application/json', cookie },
      body: JSON.stringify(body),
    });
  const answer = await post(`/api/invitations/${path.split('/').at(-1)}`, { password: PASSWORD });
  const cookie = answer.headers.get('set-cookie')!.split(';')[0]!;
  const text = async (at: string) => (await fetch(url + at, { headers: { cookie } })).text();
  const get = async <T>(at: string) => JSON.parse(await text(at)) as T;
  return { cookie, text, get, post: (at: string, body: unknown) => post(at, body, cookie) };
}
type Signed = Awaited<ReturnType<typeof comeIn>>;

/** When each edit was sent and when it was answered, ms since 1970. */
const edits: { from: number; to: number }[] = [];
const now = (): number => performance.timeOrigin + performance.now();
const refused = new Map<number, number>();
let acknowledged = 0;

/** One editor: a piece of their own, renamed again and again. The name that was acknowledged last. */
async function work(
  who: Signed,
  projectId: string,
  until: number,
): Promise<{ projectId: string; id: string; name: string }> {
  const at = `/api/projects/${projectId}`;
  const id = randomUUID();
  let [revision, name, n]: [number | null, string, number] = [null, '', 0];
  let [heard, fetched] = [0, 0];
  const ended = new AbortController();
  const events = await fetch(`${process.env.SOAK_URL}${at}/events`, {
    headers: { cookie: who.cookie },
    signal: ended.signal,
  });
  const hearing = (async () => {
    for await (const chunk of events.body!.pipeThrough(new TextDecoderStream()))
      if (chunk.includes('event: change')) heard++;
  })().catch(() => undefined);
  const following = (async () => {
    while (!ended.signal.aborted) {
      const changed = heard;
      if (changed !== fetched) await who.get<Document>(at).catch(() => undefined);
      fetched = changed;
      await setTimeout(50);
    }
  })();
  await setTimeout(Math.random() * PAUSE_MS);
  while (Date.now() < until) {
    const next = `Piece ${++n}`;
    const value = { id, projectId, name: next, kind: 'product', position: 0, partOf: null };
    const from = now();
    const body = { id: randomUUID(), label: 'Rename', edits: [{ kind: 'piece', id, revision, value }] };
    const answer = await who.post(`${at}/changes`, body);
    edits.push({ from, to: now() });
    if (answer.ok) {
      revision = ((await answer.json()) as { revisions: Record<string, number> }).revisions[id]!;
      name = next;
      acknowledged++;
    } else refused.set(answer.status, (refused.get(answer.status) ?? 0) + 1);
    await setTimeout(PAUSE_MS * (0.5 + Math.random()));
  }
  ended.abort();
  await Promise.all([hearing, following]);
  return { projectId, id, name };
}

const share = (sorted: readonly number[], p: number): number => sorted[Math.floor(p * (sorted.length - 1))]!;
function waitsOf(those: typeof edits): string {
  const sorted = those.map(({ from, to }) => to - from).sort((a, b) => a - b);
  const [p50, p95, p99] = [0.5, 0.95, 0.99].map((p) => Math.round(share(sorted, p)));
  return `median ${p50} ms, 95 % ${p95} ms, 99 % ${p99} ms, longest ${Math.round(sorted.at(-1)!)} ms`;
}
const held = async (admin: Signed): Promise<number> => heldMs(await admin.text('/api/metrics'));

/** Tracks with keyframes of four corners, as many as an edit has room for. */
function largestEdit(projectId: string, shotId: string): object {
  const region = { form: 'rectangle', cx: 100, cy: 100, width: 50, height: 50, turnDeg: 0 };
  const freedom = { move: true, turn: true, scale: true, shear: true, perspective: true };
  const corner = () => [Math.random() * 1000, Math.random() * 1000];
  const keyframe = (frame: number) => ({ frame, corners: [corner(), corner(), corner(), corner()] });
  const track = () => {
    const id = randomUUID();
    const own = { id, projectId, shotId, name: 'Case', referenceFrame: 0, region, freedom, holdOuts: [], runs: [] };
    const value = { ...own, manual: Array.from({ length: 5000 }, (_, frame) => keyframe(frame)) };
    return { kind: 'track', id, revision: null, value };
  };
  const edits = [track()];
  const bytes = JSON.stringify(edits).length;
  while ((edits.length + 1) * bytes < LARGEST_BYTES) edits.push(track());
  return { id: randomUUID(), label: 'Draw', edits };
}

const secrets = mkdtempSync(join(tmpdir(), 'mellow-soak-'));
const server = await startServer({ MELLOW_SIGN_IN: 'on', MELLOW_SECRET_FILE: join(secrets, 'secret') });
process.env.SOAK_URL = server.url;
try {
  const admin = await comeIn(server.url, await server.invite('admin', 'Admin', 'admin'));
  const projects: string[] = [];
  const editors: { who: Signed; projectId: string }[] = [];
  for (let i = 0; i < EDITORS; i++) {
    if (i % ON_ONE === 0)
      projects.push(((await (await admin.post('/api/projects', { name: `Film ${i}` })).json()) as { id: string }).id);
    const person = { login: `editor${i}`, name: `Editor ${i}`, kind: 'guest' };
    const { token, person: made } = (await (await admin.post('/api/people', person)).json()) as {
      token: string;
      person: { id: string };
    };
    const projectId = projects.at(-1)!;
    await admin.post(`/api/projects/${projectId}/people`, { personId: made.id, role: 'editor' });
    editors.push({ who: await comeIn(server.url, `/invitation/${token}`), projectId });
  }
  // what the demo still has to measure is no editor's
  await server.rest();
  await held(admin);
  const idle = idleThread();
  await idle.stalls();
  const began = Date.now();
  const until = began + MINUTES * 60_000;
  const memory = Array.from({ length: PARTS }, (): number[] => []);
  const watch = setInterval(() => {
    const part = Math.floor((PARTS * (Date.now() - began)) / (until - began));
    memory[Math.min(part, PARTS - 1)]!.push(megabytes(server.pid()));
  }, 1000);
  const last = await Promise.all(editors.map(({ who, projectId }) => work(who, projectId, until)));
  clearInterval(watch);
  const [heldByEditors, stalls] = [await held(admin), await idle.stalls()];
  await idle.end();
  let lost = 0;
  for (const { projectId, id, name } of last) {
    const { pieces } = await admin.get<Document>(`/api/projects/${projectId}`);
    if (pieces.find((p) => p.value.id === id)?.value.name !== name) lost++;
  }
  const isUndisturbed = ({ from, to }: { from: number; to: number }) => !stalls.some((s) => s[0] < to && s[1] > from);
  console.log(`${EDITORS} editors, ${MINUTES} minutes: ${acknowledged} edits acknowledged, ${lost} of the last lost`);
  console.log(`an edit: ${waitsOf(edits)}`);
  const [times, ms] = [stalls.length, Math.round(longestMs(stalls))];
  console.log(`a thread that does nothing had to wait for the machine ${times} times, for ${ms} ms at most`);
  const undisturbed = edits.filter(isUndisturbed);
  console.log(`the ${undisturbed.length} edits that no such wait fell into: ${waitsOf(undisturbed)}`);
  console.log(`refused: ${refused.size === 0 ? 'none' : JSON.stringify([...refused])}`);
  console.log(`memory of the server, MB: ${memory.map((part) => Math.round(mean(part))).join(', ')}`);

  const demo = (await admin.get<{ id: string; name: string }[]>('/api/projects')).find(
    (p) => p.name === 'Slow Morning',
  )!;
  const { shots } = await admin.get<Document>(`/api/projects/${demo.id}`);
  const body = largestEdit(demo.id, shots[0]!.value.id);
  const started = performance.now();
  const { status } = await admin.post(`/api/projects/${demo.id}/changes`, body);
  const took = Math.round(performance.now() - started);
  const heldByLargest = Math.round(await held(admin));
  console.log(
    `event loop held: ${Math.round(heldByEditors)} ms at most by the editors, ${heldByLargest} ms by an edit of`,
  );
  console.log(`${(JSON.stringify(body).length / 1e6).toFixed(1)} MB, answered with ${status} after ${took} ms`);
} finally {
  await server.close();
  rmSync(secrets, { recursive: true });
}
