// A real server process for a browser run: its own database on the test cluster, its own media folder, a free port, and
// the demo, copied from the one that was loaded before all journeys, or loaded anew.
import { spawn, type ChildProcess } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { once } from 'node:events';
import { cpSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { createRequire } from 'node:module';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout } from 'node:timers/promises';

const root = join(import.meta.dirname, '..');
/** A plain script, which has no types. */
const plain = (name: string) => import(String(new URL(`../scripts/${name}`, import.meta.url))) as Promise<unknown>;
const { buildServer } = (await plain('build.mjs')) as { buildServer: () => Promise<string> };
const { serverEnv } = (await plain('serverEnv.mjs')) as {
  serverEnv: (env: NodeJS.ProcessEnv) => NodeJS.ProcessEnv;
};
const pg = createRequire(join(root, 'packages/server/package.json'))('pg') as typeof import('pg');

/** A demo that was loaded and came to rest: nobody is connected to its database. */
interface LoadedDemo {
  database: string;
  media: string;
}
export interface TestServer extends LoadedDemo {
  url: string;
  /** SIGKILL, as when the plug is pulled. */
  kill: () => Promise<void>;
  start: () => Promise<void>;
  /** SIGTERM, and waits for the end. */
  stop: () => Promise<void>;
  /** Waits until no work is queued or under way. */
  rest: () => Promise<void>;
  /** The address below the server's own at which somebody chooses a password. */
  invite: (login: string, name: string, kind: string) => Promise<string>;
  /** The process id of the server that runs. */
  pid: () => number;
  /** Writes a backup of it, which may be running, into a folder. */
  backUp: (folder: string) => Promise<void>;
  /** Stops it if it runs, and removes its database and media. */
  close: () => Promise<void>;
}

/** What a server has logged as an error is told with the journey: some are meant, others say why it failed. */
function tellFaults(log: string): void {
  // not parsed: a kill may leave half a line
  const faults = readFileSync(log, 'utf8')
    .split('\n')
    .filter((line) => /"level":[56]0\b/.test(line));
  for (const line of faults) console.error(`the server logged: ${line}`);
}

const loadedDemo = (): LoadedDemo | undefined => {
  const stated = process.env.MELLOW_LOADED_DEMO;
  return stated ? (JSON.parse(stated) as LoadedDemo) : undefined;
};

interface StartedWith {
  /** The backup that it is restored from, in place of the demo. */
  backup?: string;
  /** Where the server reaches its database, in place of the test cluster's own port. */
  databasePort?: number;
}
/** `own`: what is set in the server's environment besides. */
export async function startServer(
  own: NodeJS.ProcessEnv = {},
  { backup, databasePort }: StartedWith = {},
): Promise<TestServer> {
  const testUrl = process.env.MELLOW_TEST_DATABASE_URL;
  if (!testUrl) throw new Error('MELLOW_TEST_DATABASE_URL is not set: run `npm test`.');
  const admin = new pg.Client({ connectionString: testUrl });
  await admin.connect();
  const name = `e2e_${randomUUID().replaceAll('-', '')}`;
  const from = backup ? undefined : loadedDemo();
  await admin.query(`create database ${name} ${from ? `template ${from.database}` : ''}`);
  const database = new URL(testUrl);
  database.pathname = `/${name}`;
  const media = mkdtempSync(join(tmpdir(), 'mellow-e2e-'));
  const logs = mkdtempSync(join(tmpdir(), 'mellow-e2e-logs-'));
  const reached = new URL(database);
  if (databasePort !== undefined) reached.port = String(databasePort);
  const data = { DATABASE_URL: reached.href, MELLOW_MEDIA: media, MELLOW_LOGS: logs };
  const env = serverEnv({ ...process.env, ...data, PORT: '0', ...own });
  const main = await buildServer();
  const spawned = (...args: string[]) =>
    spawn(process.execPath, args, { cwd: root, env, stdio: ['ignore', 'pipe', 'inherit'] });
  const node = (script: string, ...args: string[]) => spawned('--import', 'tsx', script, ...args);
  const run = async (...script: [string, ...string[]]) => {
    const [code] = (await once(node(...script), 'close')) as [number];
    if (code !== 0) throw new Error(`${script.join(' ')} ended with ${code}`);
  };
  const KEEPING = 'packages/server/src/backup/main.ts';
  if (from) cpSync(from.media, media, { recursive: true });
  else await (backup ? run(KEEPING, 'restore', backup) : run('demo/seed.ts'));
  let process_: ChildProcess | undefined;
  const end = async (signal: 'SIGKILL' | 'SIGTERM') => {
    if (!process_) return;
    const closed = once(process_, 'close');
    process_.kill(signal);
    await closed;
    process_ = undefined;
  };
  const server: TestServer = {
    url: '',
    database: name,
    media,
    async start() {
      const child = (process_ = spawned(main));
      server.url = await new Promise<string>((resolve, reject) => {
        child.stdout.on('data', (text: Buffer) => {
          const address = /READY (\S+)/.exec(text.toString())?.[1];
          if (address) resolve(address);
        });
        child.once('close', (code) => reject(new Error(`the server ended with ${code}`)));
      });
    },
    kill: () => end('SIGKILL'),
    stop: () => end('SIGTERM'),
    async rest() {
      const own = new pg.Client({ connectionString: database.href });
      await own.connect();
      const queued = async () =>
        (
          await own.query<{ n: number }>(
            'select count(*)::int as n from graphile_worker.jobs where attempts < max_attempts',
          )
        ).rows[0]!.n;
      while ((await queued()) > 0) await setTimeout(200);
      await own.end();
    },
    pid: () => process_!.pid!,
    backUp: (folder) => run(KEEPING, 'backup', folder),
    async invite(...who) {
      const child = node('packages/server/src/people/main.ts', ...who);
      let said = '';
      child.stdout.on('data', (text: Buffer) => (said += text.toString()));
      await once(child, 'close');
      return /\/invitation\/\S+/.exec(said)![0];
    },
    async close() {
      await end('SIGTERM');
      await admin.query(`drop database ${name} with (force)`);
      await admin.end();
      tellFaults(join(logs, 'server.log'));
      for (const folder of [media, logs]) rmSync(folder, { recursive: true, force: true });
    },
  };
  await server.start();
  return server;
}
