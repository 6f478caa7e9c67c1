// Builds the web app when a source file is newer than the last build.
import { existsSync, readdirSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { run } from './plain.mjs';
import { root } from './setup.mjs';

const newest = (folder) =>
  readdirSync(folder, { recursive: true, withFileTypes: true })
    .filter((e) => e.isFile())
    .reduce((latest, e) => Math.max(latest, statSync(join(e.parentPath, e.name)).mtimeMs), 0);

export function buildWeb() {
  const built = join(root, 'packages/web/dist/index.html');
  const sources = Math.max(
    ...['core', 'contract', 'web'].map((p) => newest(join(root, 'packages', p, 'src'))),
    statSync(join(root, 'package-lock.json')).mtimeMs,
  );
  if (existsSync(built) && statSync(built).mtimeMs > sources) return;
  console.log('Building the web app …');
  run('npm', ['run', 'build', '-w', '@mellow/web', '--silent'], 'The web app could not be built.', { cwd: root });
}
