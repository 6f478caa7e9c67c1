// `npm test`: set-up, types, the built server, then lint beside unit and server tests, then the browser journeys.
// `npm test -- --no-e2e` leaves those out.
import { spawn } from 'node:child_process';
import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { buildServer, buildWeb } from './build.mjs';
import { startCluster } from './cluster.mjs';
import { root, setUp } from './setup.mjs';

setUp({ browser: true });
const passes = (script, env = {}) =>
  new Promise((resolve) => {
    const options = { cwd: root, stdio: 'inherit', env: { ...process.env, ...env } };
    spawn('npm', ['run', '--silent', script], options).on('close', (code) => resolve(code === 0));
  });
if (!(await passes('types'))) process.exit(1);
// built once, before two workers share the machine: its test looks at what was built
await buildServer();
mkdirSync(join(root, '.data'), { recursive: true });
const cluster = await startCluster(join(root, '.data/postgres-test'), 'mellow_test', { isForNow: true });
const env = { MELLOW_TEST_DATABASE_URL: cluster.url };
let good = (await Promise.all([passes('unit', env), passes('lint')])).every(Boolean);
if (good && !process.argv.includes('--no-e2e')) {
  buildWeb();
  good = await passes('e2e', env);
}
await cluster.stop();
console.log(good ? 'All checks passed.' : 'A check failed; see above.');
process.exit(good ? 0 : 1);
