// The database of a start: shared by starts, stopped by the one that started it, started again when it ends by itself.
import { spawn, type ChildProcess } from 'node:child_process';
import { once } from 'node:events';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import pg from 'pg';
import { afterAll, expect, it } from 'vitest';

const work = mkdtempSync(join(tmpdir(), 'mellow-cluster-'));
const script = join(work, 'start.mjs');
const cluster = pathToFileURL(join(import.meta.dirname, 'cluster.mjs')).href;
writeFileSync(
  script,
  `import { startCluster } from ${JSON.stringify(cluster)};
   const cluster = await startCluster(process.argv[2]);
   process.on('SIGTERM', async () => { await cluster.stop(); process.exit(0); });
   console.log(cluster.url);
   setInterval(() => undefined, 1000);`,
);
const started: ChildProcess[] = [];
afterAll(async () => {
  for (const each of started) if (each.exitCode === null && each.signalCode === null) await stop(each);
  rmSync(work, { recursive: true, force: true });
});

async function start(folder: string): Promise<{ process: ChildProcess; url: string }> {
  const child = spawn(process.execPath, [script, folder], { stdio: ['ignore', 'pipe', 'inherit'] });
  started.push(child);
  const [text] = (await once(child.stdout, 'data')) as [Buffer];
  return { process: child, url: text.toString().trim() };
}
async function stop(child: ChildProcess, signal: NodeJS.Signals = 'SIGTERM'): Promise<void> {
  const closed = once(child, 'close');
  child.kill(signal);
  await closed;
}
async function answers(url: string): Promise<boolean> {
  const client = new pg.Client({ connectionString: url, connectionTimeoutMillis: 2000 });
  client.on('error', () => undefined);
  try {
    await client.connect();
    await client.query('select 1');
    return true;
  } catch {
    return false;
  } finally {
    await client.end().catch(() => undefined);
  }
}
async function until(what: string, probe: () => Promise<boolean>): Promise<void> {
  const end = Date.now() + 30_000;
  while (!(await probe())) {
    if (Date.now() > end) throw new Error(`waited in vain for ${what}`);
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
}
/**
 * Where the folder's server says its process is; the cluster may lie elsewhere than in a folder postgres cannot enter.
 */
async function postmaster(url: string): Promise<number> {
  const client = new pg.Client({ connectionString: url });
  await client.connect();
  const { rows } = await client.query<{ folder: string }>(
    `select setting as folder from pg_settings where name = 'data_directory'`,
  );
  await client.end();
  return Number(readFileSync(join(rows[0]!.folder, 'postmaster.pid'), 'utf8').split('\n')[0]);
}

it('is used by a second start, which does not stop it; the second takes over when the first has gone', async () => {
  const folder = join(work, 'shared');
  const first = await start(folder);
  const second = await start(folder);
  expect(second.url).toBe(first.url);
  await stop(second.process);
  expect(await answers(first.url)).toBe(true);

  const third = await start(folder);
  await stop(first.process);
  await until('the third start to run it', () => answers(third.url));
  await stop(third.process);
  expect(await answers(third.url)).toBe(false);
});

it('is started again on the same port when it ends by itself, with all that was in it', async () => {
  const { process: owner, url } = await start(join(work, 'ends'));
  const client = new pg.Client({ connectionString: url });
  client.on('error', () => undefined);
  await client.connect();
  await client.query('create table kept (n integer); insert into kept values (7)');
  process.kill(await postmaster(url), 'SIGKILL');
  await until('the outage', async () => !(await answers(url)));
  await until('the database', () => answers(url));
  const again = new pg.Client({ connectionString: url });
  await again.connect();
  expect((await again.query('select n from kept')).rows).toEqual([{ n: 7 }]);
  await again.end();
  await stop(owner);
  expect(await answers(url)).toBe(false);
});

it('left over from a start that was killed is taken over, and stopped by who took it over', async () => {
  const folder = join(work, 'left');
  const killed = await start(folder);
  await stop(killed.process, 'SIGKILL');
  expect(await answers(killed.url)).toBe(true);
  const next = await start(folder);
  expect(next.url).toBe(killed.url);
  await stop(next.process);
  expect(await answers(next.url)).toBe(false);
});
