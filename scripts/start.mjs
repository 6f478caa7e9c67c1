// `npm start`: set-up, database, demo, build, server. Ctrl-C stops all that this started, and nothing else.
import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { buildServer, buildWeb } from './build.mjs';
import { startCluster } from './cluster.mjs';
import { child, pause } from './plain.mjs';
import { serverEnv } from './serverEnv.mjs';
import { root, setUp } from './setup.mjs';

setUp();
const home = join(root, '.data');
mkdirSync(home, { recursive: true });
const running = [];
let stopping = false;
async function stopAll(code) {
  if (stopping) return;
  stopping = true;
  for (const each of running.reverse()) await each.stop();
  process.exit(code);
}
for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, () => void stopAll(0));

const env = { ...process.env };
if (!env.DATABASE_URL) {
  const cluster = await startCluster(join(home, 'postgres'));
  running.push(cluster);
  env.DATABASE_URL = cluster.url;
}
env.MELLOW_MEDIA ??= join(home, 'media');
env.MELLOW_LOGS ??= join(home, 'logs');
buildWeb();
const main = await buildServer();
if (env.MELLOW_DEMO !== 'no') {
  const seed = child(process.execPath, ['--import', 'tsx', 'demo/seed.ts'], { cwd: root, env, stdio: 'inherit' });
  running.push(seed);
  if ((await seed.closed) !== 0 && !stopping) {
    process.stderr.write('The demo could not be loaded.\n');
    await stopAll(1);
  }
}

/** A server that ended although nobody asked it to is started again; not where none ever got so far as to serve. */
const MOST_RESTARTS = 5;
const WITHIN_MS = 60_000;
const restarts = [];
let server;
let wasReady = false;
running.push({ stop: () => server?.stop() });
while (!stopping) {
  server = child(process.execPath, [main], { cwd: root, env: serverEnv(env), detached: true });
  server.process.stdout.on('data', (text) => {
    const address = /READY (\S+)/.exec(String(text))?.[1];
    if (!address) return void process.stdout.write(text);
    wasReady = true;
    const again = restarts.length > 0 ? ' again' : '';
    console.log(`\nMellow Hue is${again} at ${address}   (Ctrl-C stops it; logs are in ${env.MELLOW_LOGS})`);
  });
  const code = await server.closed;
  if (stopping) break;
  const now = Date.now();
  restarts.push(now);
  const often = restarts.filter((at) => now - at < WITHIN_MS).length > MOST_RESTARTS;
  if (!wasReady || often) {
    if (often) process.stderr.write('The server keeps ending; see its logs. Nothing that was saved is lost.\n');
    await stopAll(1);
  }
  process.stderr.write(
    `The server ended (${code ?? 'killed'}); it is started again. Nothing that was saved is lost.\n`,
  );
  await pause(500);
}
await new Promise(() => undefined);
