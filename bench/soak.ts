// Editors at work for minutes: `npm run soak -- [EDITORS] [MINUTES]`. Each is signed in, has a project open, edits
// every few seconds, and fetches the project when somebody has changed it, as pages do. Told: how long an edit waits,
// how much memory the server has, and whether every acknowledged edit is there afterwards.
import { randomUUID } from 'node:crypto';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout } from 'node:timers/promises';
import { startServer } from '../e2e/server.ts';

const EDITORS = Number(process.argv[2] ?? 50);
const MINUTES = Number(process.argv[3] ?? 10);
/** So many work on one project. */
const ON_ONE = 5;
/** Between two edits of one editor, ms: about as a hand that turns one control after the other. */
const PAUSE_MS = 3000;
const PASSWORD = 'soaked through and through';

interface Stored {
  value: { id: string; name: string };
  revision: number;
}
interface Document {
  pieces: Stored[];
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
  const get = async <T>(at: string) => (await (await fetch(url + at, { headers: { cookie } })).json()) as T;
  return { cookie, get, post: (at: string, body: unknown) => post(at, body, cookie) };
}
type Signed = Awaited<ReturnType<typeof comeIn>>;

const waits: number[] = [];
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
    const began = performance.now();
    const body = { id: randomUUID(), label: 'Rename', edits: [{ kind: 'piece', id, revision, value }] };
    const answer = await who.post(`${at}/changes`, body);
    waits.push(performance.now() - began);
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
const megabytes = (pid: number): number =>
  Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))![1]) / 1024;

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
  const before = megabytes(server.pid());
  const until = Date.now() + MINUTES * 60_000;
  let most = before;
  const watch = setInterval(() => (most = Math.max(most, megabytes(server.pid()))), 1000);
  const last = await Promise.all(editors.map(({ who, projectId }) => work(who, projectId, until)));
  clearInterval(watch);
  let lost = 0;
  for (const { projectId, id, name } of last) {
    const { pieces } = await admin.get<Document>(`/api/projects/${projectId}`);
    if (pieces.find((p) => p.value.id === id)?.value.name !== name) lost++;
  }
  const sorted = waits.toSorted((a, b) => a - b);
  const [p50, p95, p99] = [0.5, 0.95, 0.99].map((p) => Math.round(share(sorted, p)));
  console.log(`${EDITORS} editors, ${MINUTES} minutes: ${acknowledged} edits acknowledged, ${lost} of the last lost`);
  console.log(`an edit: median ${p50} ms, 95 % ${p95} ms, 99 % ${p99} ms, longest ${Math.round(sorted.at(-1)!)} ms`);
  console.log(`refused: ${refused.size === 0 ? 'none' : JSON.stringify([...refused])}`);
  console.log(`memory of the server: ${Math.round(before)} MB before, ${Math.round(most)} MB at most`);
} finally {
  await server.close();
  rmSync(secrets, { recursive: true });
}
