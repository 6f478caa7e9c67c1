// Builds the web app and the server when a source file is newer than the last build: `npm run build`, and by whoever
// starts them.
import {
  cpSync,
  existsSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  renameSync,
  statSync,
  utimesSync,
  writeFileSync,
} from 'node:fs';
import { join } from 'node:path';
import { run } from './plain.mjs';
import { root } from './setup.mjs';

const newest = (folder) =>
  readdirSync(folder, { recursive: true, withFileTypes: true })
    .filter((e) => e.isFile())
    .reduce((latest, e) => Math.max(latest, statSync(join(e.parentPath, e.name)).mtimeMs), 0);

/** Is a built file newer than the sources of these packages, and than what builds them? */
function isNewer(built, packages) {
  const sources = Math.max(
    ...packages.map((name) => newest(join(root, 'packages', name, 'src'))),
    ...[join(root, 'package-lock.json'), import.meta.filename].map((file) => statSync(file).mtimeMs),
  );
  return existsSync(built) && statSync(built).mtimeMs > sources;
}

export function buildWeb() {
  if (isNewer(join(root, 'packages/web/dist/index.html'), ['core', 'contract', 'web'])) return;
  console.log('Building the web app …');
  run('npm', ['run', 'build', '-w', '@mellow/web', '--silent'], 'The web app could not be built.', { cwd: root });
}

const SERVER = join(root, 'packages/server');
/** What is run: the server, and its threads, which are loaded by these names from beside it. */
const ENTRIES = {
  main: 'main.ts',
  workThread: 'workThread.ts',
  renderThread: 'render/renderThread.ts',
  rewriteThread: 'media/rewriteWorker.ts',
  largeBodyThread: 'api/largeBodyWorker.ts',
  carryThread: 'carry/carryWorker.ts',
  trackThread: 'track/trackWorker.ts',
};

/**
 * The server in a few files, which a process and each of its threads load in half the time. What has not changed
 * is left alone, and chunks of earlier builds stay: a server that runs may load them yet. Gives the file to run.
 */
export async function buildServer() {
  const to = join(SERVER, 'dist');
  const main = join(to, 'main.mjs');
  if (isNewer(main, ['core', 'contract', 'server'])) return main;
  const { build } = await import('vite');
  const { output } = await build({
    configFile: false,
    root: SERVER,
    logLevel: 'warn',
    build: {
      ssr: true,
      write: false,
      target: 'node20',
      minify: false,
      rolldownOptions: {
        input: Object.fromEntries(Object.entries(ENTRIES).map(([name, file]) => [name, join(SERVER, 'src', file)])),
        output: { entryFileNames: '[name].mjs', chunkFileNames: '[name]-[hash].mjs' },
        // modules that are imported for what they do stay
        treeshake: false,
      },
    },
  });
  mkdirSync(to, { recursive: true });
  cpSync(join(SERVER, 'src/db/migrations'), join(to, 'migrations'), { recursive: true });
  // the entries come last: what they load is there
  for (const { fileName, code } of output.toSorted((a, b) => Number(a.isEntry) - Number(b.isEntry))) {
    const path = join(to, fileName);
    if (existsSync(path) && readFileSync(path, 'utf8') === code) continue;
    writeFileSync(`${path}.${process.pid}`, code);
    renameSync(`${path}.${process.pid}`, path);
  }
  utimesSync(main, new Date(), new Date());
  return main;
}

if (process.argv[1] === import.meta.filename) {
  buildWeb();
  await buildServer();
}
