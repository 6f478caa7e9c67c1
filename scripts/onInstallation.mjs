// Runs a program of the server's on the installation of `npm start`, which may be running, or on that which
// DATABASE_URL and MELLOW_MEDIA name.
import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { startCluster } from './cluster.mjs';
import { child } from './plain.mjs';
import { root, setUp } from './setup.mjs';

/** Ends this process with the program's own code. `program`: its file below packages/server/src. */
export async function runOnInstallation(program, args) {
  setUp();
  const home = join(root, '.data');
  mkdirSync(home, { recursive: true });
  const env = { ...process.env };
  let cluster;
  if (!env.DATABASE_URL) {
    cluster = await startCluster(join(home, 'postgres'));
    env.DATABASE_URL = cluster.url;
  }
  env.MELLOW_MEDIA ??= join(home, 'media');
  const main = join(root, 'packages/server/src', program);
  const work = child(process.execPath, ['--import', 'tsx', main, ...args], { cwd: root, env, stdio: 'inherit' });
  for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => void work.stop());
  const code = await work.closed;
  await cluster?.stop();
  process.exit(code ?? 1);
}
