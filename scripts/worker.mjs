// `npm run worker`: another machine's hands. Needs DATABASE_URL and MELLOW_MEDIA of the installation it works for.
import { buildServer } from './build.mjs';
import { child, fail } from './plain.mjs';
import { serverEnv } from './serverEnv.mjs';
import { root, setUp } from './setup.mjs';

if (!process.env.DATABASE_URL || !process.env.MELLOW_MEDIA)
  fail('Set DATABASE_URL and MELLOW_MEDIA to those of the installation this worker is for.');
setUp();
const worker = child(process.execPath, [await buildServer(), '--worker'], {
  cwd: root,
  env: serverEnv(process.env),
  stdio: 'inherit',
});
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => void worker.stop());
process.exit((await worker.closed) ?? 1);
