// `npm test`: set-up, types, lint, unit and server tests, then the browser journeys. `npm test -- --no-e2e` leaves
// those out.
import { spawnSync } from 'node:child_process';
import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { buildWeb } from './build.mjs';
import { startCluster } from './cluster.mjs';
import { root, setUp } from './setup.mjs';

setUp({ browser: true });
const passes = (script, env = {}) =>
  spawnSync('npm', ['run', '--silent', script], { cwd: root, stdio: 'inherit', env: { ...process.env, ...env } })
    .status === 0;
if (!passes('types') || !passes('lint')) process.exit(1);
mkdirSync(join(root, '.data'), { recursive: true });
const cluster = await startCluster(join(root, '.data/postgres-test'), 'mellow_test');
const env = { MELLOW_TEST_DATABASE_URL: cluster.url };
let good = passes('unit', env);
if (good && !process.argv.includes('--no-e2e')) {
  buildWeb();
  good = passes('e2e', env);
}
await cluster.stop();
console.log(good ? 'All checks passed.' : 'A check failed; see above.');
process.exit(good ? 0 : 1);
