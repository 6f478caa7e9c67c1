// A real server process for a browser run: its own database on the test cluster, its own media folder, a free port.
import { spawn, type ChildProcess } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { once } from 'node:events';
import { mkdtempSync, rmSync } from 'node:fs';
import { createRequire } from 'node:module';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

const root = join(import.meta.dirname, '..');
const pg = createRequire(join(root, 'packages/server/package.json'))('pg') as typeof import('pg');

export interface TestServer {
  url: string;
  media: string;
  /** SIGKILL, as when the plug is pulled. */
  kill: () => Promise<void>;
  start: () => Promise<void>;
  close: () => Promise<void>;
}

export async function startServer({ demo }: { demo: boolean }): Promise<TestServer> {
  const testUrl = process.env.MELLOW_TEST_DATABASE_URL;
  if (!testUrl) throw new Error('MELLOW_TEST_DATABASE_URL is not set: run `npm test`.');
  const admin = new pg.Client({ connectionString: testUrl });
  await admin.connect();
  const name = `e2e_${randomUUID().replaceAll('-', '')}`;
  await admin.query(`create database ${name}`);
  const database = new URL(testUrl);
  database.pathname = `/${name}`;
  const media = mkdtempSync(join(tmpdir(), 'mellow-e2e-'));
  const env = { ...process.env, DATABASE_URL: database.href, MELLOW_MEDIA: media, PORT: '0' };
  const node = (script: string) =>
    spawn(process.execPath, ['--import', 'tsx', script], { cwd: root, env, stdio: ['ignore', 'pipe', 'inherit'] });
  if (demo) {
    const [code] = (await once(node('demo/seed.ts'), 'close')) as [number];
    if (code !== 0) throw new Error('the demo could not be loaded');
  }
  let process_: ChildProcess | undefined;
  const server: TestServer = {
    url: '',
    media,
    async start() {
      const child = (process_ = node('packages/server/src/main.ts'));
      server.url = await new Promise<string>((resolve, reject) => {
        child.stdout.on('data', (text: Buffer) => {
          const address = /READY (\S+)/.exec(text.toString())?.[1];
          if (address) resolve(address);
        });
        child.once('close', (code) => reject(new Error(`the server ended with ${code}`)));
      });
    },
    async kill() {
      const closed = once(process_!, 'close');
      process_!.kill('SIGKILL');
      await closed;
    },
    async close() {
      const closed = once(process_!, 'close');
      process_!.kill('SIGTERM');
      await closed;
      await admin.query(`drop database ${name} with (force)`);
      await admin.end();
      rmSync(media, { recursive: true, force: true });
    },
  };
  await server.start();
  return server;
}
