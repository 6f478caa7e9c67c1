// `npm run backup -- FOLDER` and `npm run restore -- FOLDER`: of the installation of `npm start`, which may be running
// while it is backed up, or of that which DATABASE_URL and MELLOW_MEDIA name.
import { mkdirSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { startCluster } from './cluster.mjs';
import { child, fail } from './plain.mjs';
import { root, setUp } from './setup.mjs';

const [what, folder] = process.argv.slice(2);
if (!folder) fail(`Name a folder: npm run ${what} -- FOLDER`);
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
const main = join(root, 'packages/server/src/backup/main.ts');
// npm runs scripts in the project's folder; the folder named is as seen from where it was called
const named = resolve(process.env.INIT_CWD ?? '.', folder);
const work = child(process.execPath, ['--import', 'tsx', main, what, named], { cwd: root, env, stdio: 'inherit' });
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => void work.stop());
const code = await work.closed;
await cluster?.stop();
process.exit(code ?? 1);
