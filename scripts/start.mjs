// `npm start`: set-up, database, demo, build, server. Ctrl-C stops all that this started.
import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { buildWeb } from './build.mjs';
import { startCluster } from './cluster.mjs';
import { child } from './plain.mjs';
import { root, setUp } from './setup.mjs';

setUp();
mkdirSync(join(root, '.data'), { recursive: true });
const running = [];
let stopping = false;
async function stopAll(code) {
  if (stopping) return;
  stopping = true;
  for (const each of running.reverse()) await each.stop();
  process.exit(code);
}
process.on('SIGINT', () => void stopAll(0));
process.on('SIGTERM', () => void stopAll(0));

const env = { ...process.env };
if (!env.DATABASE_URL) {
  const cluster = await startCluster(join(root, '.data/postgres'));
  running.push(cluster);
  env.DATABASE_URL = cluster.url;
}
env.MELLOW_MEDIA ??= join(root, '.data/media');
buildWeb();
const tsx = ['--import', 'tsx'];
if (env.MELLOW_DEMO !== 'no') {
  const seed = child(process.execPath, [...tsx, 'demo/seed.ts'], { cwd: root, env, stdio: 'inherit' });
  running.push(seed);
  if ((await seed.closed) !== 0 && !stopping) {
    process.stderr.write('The demo could not be loaded.\n');
    await stopAll(1);
  }
}
const server = child(process.execPath, [...tsx, 'packages/server/src/main.ts'], { cwd: root, env, detached: true });
running.push(server);
server.process.stdout.on('data', (text) => {
  const address = /READY (\S+)/.exec(String(text))?.[1];
  if (address) console.log(`\nMellow Hue is at ${address}   (Ctrl-C stops it)`);
});
const code = await server.closed;
if (!stopping) {
  if (code === null) process.stderr.write('The server was killed. Start again: nothing that was saved is lost.\n');
  await stopAll(1);
}
await new Promise(() => undefined);
