// Proof by fire: `npm run fire -- [KILLS] [DATABASE KILLS] [STOPS]`. A server with the demo is at work: somebody edits,
// sends and brings in footage, tracks, carries, renders, and every edit has something measured. All the while the plug
// is pulled: the server is killed, the database is killed, the server is asked to stop, at any moment. Told: whether an
// acknowledged edit was lost or done twice, how long until it served again, whether work stood still, and what was left
// behind.
import { createHash } from 'node:crypto';
import { execFileSync, spawn, type ChildProcess } from 'node:child_process';
import { once } from 'node:events';
import { chmodSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { createRequire } from 'node:module';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import { words } from '../packages/server/src/media/words.ts';
import { idleThread } from './measures.ts';
import { FILM_FRAMES, somebody, type Film } from './use.ts';

const root = join(import.meta.dirname, '..');
const pg = createRequire(join(root, 'packages/server/package.json'))('pg') as typeof import('pg');
const [KILLS, DATABASE_KILLS, STOPS] = [200, 50, 50].map((usual, i) => Number(process.argv[2 + i] ?? usual)) as [
  number,
  number,
  number,
];
/** After every so many blows it is seen to that whatever runs is taken up. */
const LOOKED_AT_EVERY = 10;
const SECONDS = 1000;

const work = mkdtempSync(join(tmpdir(), 'mellow-fire-'));
// the database's own user has to get in
chmodSync(work, 0o755);
const media = join(work, 'media');
mkdirSync(media);
// plain scripts, which have no types
const plain = async <Script>(name: string): Promise<Script> =>
  (await import(String(new URL(`../scripts/${name}`, import.meta.url)))) as Script;
const { startCluster } = await plain<{
  startCluster: (folder: string, name: string) => Promise<{ url: string; stop: () => Promise<void> }>;
}>('cluster.mjs');
const main = await (await plain<{ buildServer: () => Promise<string> }>('build.mjs')).buildServer();
const cluster = await startCluster(join(work, 'postgres'), 'fire');
const { serverEnv } = await plain<{ serverEnv: (env: NodeJS.ProcessEnv) => NodeJS.ProcessEnv }>('serverEnv.mjs');
const env = serverEnv({
  ...process.env,
  DATABASE_URL: cluster.url,
  MELLOW_MEDIA: media,
  MELLOW_LOGS: join(work, 'logs'),
  PORT: '0',
});
const node = (...args: string[]): ChildProcess =>
  spawn(process.execPath, args, { cwd: root, env, stdio: ['ignore', 'pipe', 'pipe'] });

const say = (text: string): void => {
  console.log(`${new Date().toISOString().slice(11, 19)} ${text}`);
};
const faults: string[] = [];
const fault = (text: string): void => {
  faults.push(text);
  say(`FAULT ${text}`);
};

// ——— the server, and how it is ended

let url = '';
let server: ChildProcess | undefined;
let slowest = 0;
/** For how long of that the machine let a thread that does nothing wait, ms. */
let slowestStalled = 0;
const idle = idleThread();
/** What it has said of its end. */
let said = '';
async function start(): Promise<void> {
  const began = Date.now();
  await idle.stalls();
  for (;;) {
    const child = (server = node(main));
    said = '';
    child.stderr!.on('data', (text: Buffer) => (said += text.toString()));
    const address = new Promise<string | undefined>((resolve) => {
      child.stdout!.on('data', (text: Buffer) => {
        const found = /READY (\S+)/.exec(text.toString())?.[1];
        if (found) resolve(found);
      });
      child.once('close', () => resolve(undefined));
    });
    const found = await address;
    if (found) {
      url = found;
      const taken = Date.now() - began;
      const stalled = (await idle.stalls()).reduce((sum, [from, to]) => sum + to - from, 0);
      if (taken > slowest) [slowest, slowestStalled] = [taken, Math.round(stalled)];
      return;
    }
    // the database may be on its way up; the start script begins a server anew too
    if (Date.now() - began > 60 * SECONDS) throw new Error(`the server does not start: ${said}`);
    await pause(200);
  }
}
async function end(signal: 'SIGKILL' | 'SIGTERM'): Promise<void> {
  const closed = once(server!, 'close');
  server!.kill(signal);
  const late = pause(30 * SECONDS, 'late', { ref: false });
  if ((await Promise.race([closed, late])) === 'late') {
    fault(`${signal} did not end the server within 30 s`);
    server!.kill('SIGKILL');
    await closed;
  }
}
/** Kills the first process of our own cluster, by the port that it listens at; false where there is none. */
function killDatabase(): boolean {
  const { port } = new URL(cluster.url);
  for (const pid of readdirSync('/proc').filter((name) => /^\d+$/.test(name))) {
    let command = '';
    try {
      command = readFileSync(`/proc/${pid}/cmdline`, 'utf8');
    } catch {
      // it has ended meanwhile
    }
    if (!/\/postgres\0-D\0/.test(command) || !command.includes(`\0-p\0${port}\0`)) continue;
    process.kill(Number(pid), 'SIGKILL');
    return true;
  }
  return false;
}

const over = new AbortController();
const isOver = (): boolean => over.signal.aborted;
// ——— what is looked at

async function query<T extends object>(text: string, values: unknown[] = []): Promise<T[]> {
  for (;;) {
    const client = new pg.Client({ connectionString: cluster.url });
    client.on('error', () => undefined);
    try {
      await client.connect();
      return (await client.query<T>(text, values)).rows;
    } catch (error) {
      if (!/terminat|ECONN|starting up|not yet accepting|shutting down|timeout/.test(String(error))) throw error;
      await pause(200);
    } finally {
      await client.end().catch(() => undefined);
    }
  }
}
let longestStill = 0;
/** Places for work that the one process has: see packages/server/src/workers.ts. */
const PLACES = 2;
/**
 * Waits until nothing stands still: whatever is called running is in the hands of somebody who lives, and nothing waits
 * while there is a place for it.
 */
async function takenUp(): Promise<void> {
  const began = Date.now();
  for (;;) {
    const [row] = await query<{ n: number }>(
      `with living as (
         select held.* from graphile_worker._private_jobs as held join worker_heartbeat as w on w.id = held.locked_by
          where w.at > now() - interval '10 s'),
       due as (
         select 1 from graphile_worker._private_jobs as waiting join graphile_worker._private_tasks as task
             on task.id = waiting.task_id and task.identifier = 'job'
          where waiting.is_available and waiting.run_at <= now())
       select (select count(*) from job where state = 'running' and not exists (
           select 1 from living where key = job.id::text or payload::text like '%' || job.id || '%'))::int
         + case when (select count(*) from living) < $1 then (select count(*) from due)::int else 0 end as n`,
      [PLACES],
    );
    if (row!.n === 0) break;
    if (Date.now() - began > 60 * SECONDS) {
      fault('work stood still for over a minute');
      break;
    }
    await pause(250);
  }
  longestStill = Math.max(longestStill, Date.now() - began);
}

const blows = [
  ...Array<'kill'>(KILLS).fill('kill'),
  ...Array<'database'>(DATABASE_KILLS).fill('database'),
  ...Array<'stop'>(STOPS).fill('stop'),
]
  .map((kind) => ({ kind, at: Math.random() }))
  .sort((a, b) => a.at - b.at);

try {
  say(`${KILLS} kills of the server, ${DATABASE_KILLS} of the database, ${STOPS} stops`);
  const seeded = node('--import', 'tsx', 'demo/seed.ts');
  if (((await once(seeded, 'close')) as [number])[0] !== 0) throw new Error('the demo could not be loaded');
  await start();
  const user = await somebody('Slow Morning', { url: () => url, work, isOver, fault });
  const { acknowledged, films: sent } = user;
  const all = async (act: () => Promise<unknown>, restMs: number): Promise<void> => {
    while (!isOver()) {
      await act();
      await pause(restMs);
    }
  };
  let renders = 0;
  // a shot of the demo seldom outlives a blow, a film of a few frames does
  const render = async (film: Film) => (++renders % 5 === 0 ? user.renderShot(renders) : user.renderFilm(film));
  const withLastFilm = (act: (film: Film) => Promise<void>) => async () => sent.length > 0 && act(sent.at(-1)!);
  const doing = [
    all(user.edit, 30),
    all(user.turn, 2 * SECONDS),
    all(user.bringIn, 2 * SECONDS),
    all(withLastFilm(render), SECONDS),
    all(user.track, 8 * SECONDS),
    all(withLastFilm(user.carry), 8 * SECONDS),
  ];
  for (const each of doing) each.catch((error: unknown) => fault(String(error)));
  for (const [n, { kind }] of blows.entries()) {
    await pause(300 + Math.random() * 4 * SECONDS);
    if (kind === 'database') {
      // the one that was killed before may be on its way up
      while (!killDatabase()) await pause(200);
      await pause(2 * SECONDS);
      if (server!.exitCode !== null || server!.signalCode !== null) {
        fault(`the server ended with its database: ${said.trim()}`);
        await start();
      }
    } else {
      await end(kind === 'kill' ? 'SIGKILL' : 'SIGTERM');
      await start();
    }
    if ((n + 1) % LOOKED_AT_EVERY === 0) {
      await takenUp();
      const [{ n: done }] = (await query<{ n: number }>(`select count(*)::int as n from job where state = 'done'`)) as [
        { n: number },
      ];
      const sofar = `${acknowledged.length} edits, ${sent.length} films, ${done} jobs done`;
      say(`${n + 1} blows: ${sofar}, longest start ${slowest} ms (machine: ${slowestStalled})`);
    }
  }
  over.abort();
  await Promise.all(doing);

  // everything comes to rest, once more from a fresh start
  await end('SIGKILL');
  await start();
  const restedBy = Date.now() + 20 * 60 * SECONDS;
  for (;;) {
    const [row] = await query<{ n: number }>(
      `select (select count(*) from job where state in ('queued', 'running'))::int
        + (select count(*) from graphile_worker._private_jobs where attempts < max_attempts)::int as n`,
    );
    if (row!.n === 0) break;
    if (Date.now() > restedBy) {
      fault(`${row!.n} jobs never came to rest`);
      break;
    }
    await pause(500);
  }

  const log = await query<{ id: string; n: number }>('select id, count(*)::int as n from change group by id');
  const times = new Map(log.map((row) => [row.id, row.n]));
  const lost = acknowledged.filter((id) => !times.has(id)).length;
  const doubled = [...times.values()].filter((n) => n > 1).length;
  if (lost > 0 || doubled > 0) fault(`${lost} acknowledged edits lost, ${doubled} done twice`);
  const failed = await query<{ kind: string; message: string }>(`select kind, message from job where state = 'failed'`);
  for (const { kind, message } of failed) fault(`a ${kind} failed: ${message}`);

  // every finished file is whole
  const stored = await query<{ id: string; sha256: string; frames: number; input: string }>(
    `select id, sha256, (description->>'frames')::int as frames, files->>'input' as input from media`,
  );
  for (const { id, sha256, frames, input } of stored) {
    const proxies = readdirSync(join(media, 'frames', id, 'proxy')).length;
    if (proxies !== frames) fault(`${input} has ${proxies} of ${frames} small pictures`);
    const file = join(media, 'store', sha256, input);
    if (!/%/.test(input) && createHash('sha256').update(readFileSync(file)).digest('hex') !== sha256)
      fault(`${input} is not what was sent`);
  }
  for (const { sha256, mediaIds } of sent)
    if (!stored.some((m) => m.sha256 === sha256 && mediaIds.includes(m.id))) fault('a film that was taken in is gone');
  const deliveries = await query<{ id: string; file_name: string; due: number }>(
    `select d.id, d.file_name, (m.description->>'frames')::int as due
      from delivery d join job j on j.id = d.job_id join shot s on s.id = d.shot_id join media m on m.id = s.media_id
      where j.state = 'done'`,
  );
  for (const { id, file_name, due } of deliveries) {
    const file = join(media, 'deliveries', id, file_name);
    const count = words('-v error -count_frames -select_streams v -show_entries stream=nb_read_frames -of csv=p=0');
    const frames = execFileSync('ffprobe', [...count, file], { encoding: 'utf8' }).trim();
    if (frames !== String(due)) fault(`${file_name} has ${frames} of ${due} frames`);
  }

  // every pass that is done has found every frame
  const passes = await query<{ frames: number }>(
    `select count(f.frame)::int as frames from job j join carry_run r on j.payload->'runIds' ? r.id::text
      left join carried_frame f on f.run_id = r.id where j.kind = 'carry' and j.state = 'done' group by r.id`,
  );
  for (const { frames } of passes) if (frames !== FILM_FRAMES - 1) fault(`a pass found ${frames} frames`);

  // what is left behind: nothing that only a dead process knew of, and nothing that the database does not know
  const inFolder = (name: string): string[] => readdirSync(join(media, name));
  const known = new Set([
    ...stored.flatMap((m) => [m.id, m.sha256]),
    ...(await query<{ id: string }>('select id from delivery')).map((d) => d.id),
    'identity',
  ]);
  const orphans = ['store', 'frames', 'deliveries'].flatMap((folder) =>
    inFolder(folder)
      .filter((name) => !known.has(name))
      .map((name) => `${folder}/${name}`),
  );
  if (orphans.length > 0) fault(`left behind: ${orphans.join(', ')}`);
  const stagings = inFolder('staging').filter((name) => !name.startsWith(`${server!.pid}.`));
  if (stagings.length > 0) fault(`staging of dead processes: ${stagings.join(', ')}`);
  const parts = execFileSync('find', [media, '-name', '*.part'], { encoding: 'utf8' }).trim();
  if (parts) fault(`parts: ${parts}`);

  const jobs = `${deliveries.length} renders, ${passes.length} passes`;
  const more = `${acknowledged.length} edits acknowledged, ${sent.length} films, ${jobs}`;
  say(`${blows.length} blows survived: ${more}; ${lost} edits lost, ${doubled} doubled`);
  say(`longest start ${slowest} ms, in which the machine let nobody work for ${slowestStalled} ms`);
  say(`longest that work stood still ${longestStill} ms; ${faults.length} faults`);
} finally {
  over.abort();
  if (server && server.exitCode === null) await end('SIGTERM');
  await cluster.stop();
  if (faults.length === 0) rmSync(work, { recursive: true, force: true });
  else console.log(`what is left lies in ${work}`);
}
process.exit(faults.length === 0 ? 0 : 1);
