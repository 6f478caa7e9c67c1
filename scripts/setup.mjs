// Everything a fresh Debian machine with Node lacks: Node packages and Debian packages. Does nothing when all is there.
import { spawnSync } from 'node:child_process';
import { existsSync, readdirSync, readFileSync, statfsSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { fail, run } from './plain.mjs';

export const root = join(import.meta.dirname, '..');
const has = (program) => spawnSync('sh', ['-c', `command -v ${program}`]).status === 0;

/** Folder of the newest installed PostgreSQL server programs, or undefined. */
export function postgresBin() {
  const base = '/usr/lib/postgresql';
  if (!existsSync(base)) return undefined;
  const versions = readdirSync(base)
    .filter((v) => existsSync(join(base, v, 'bin/postgres')))
    .sort((a, b) => Number(b) - Number(a));
  return versions[0] && join(base, versions[0], 'bin');
}

function nodePackages() {
  const stamp = join(root, 'node_modules/.mellow-lock');
  const lock = readFileSync(join(root, 'package-lock.json'), 'utf8');
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === lock) return;
  console.log('Installing Node packages …');
  run('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error'], 'Node packages could not be installed.', {
    cwd: root,
  });
  writeFileSync(stamp, lock);
}

function debianPackages(withBrowser) {
  const wanted = [
    [postgresBin() !== undefined, 'postgresql'],
    [has('ffmpeg') && has('ffprobe'), 'ffmpeg'],
    [!withBrowser || has('chromium'), 'chromium'],
    // reads the reports that are written, in tests
    [!withBrowser || has('pdftotext'), 'poppler-utils'],
    // and the zips
    [!withBrowser || has('unzip'), 'unzip'],
  ];
  const missing = wanted.filter(([there]) => !there).map(([, name]) => name);
  if (missing.length === 0) return;
  const command = `apt-get install -y --no-install-recommends ${missing.join(' ')}`;
  if (process.getuid?.() !== 0)
    fail(
      `These Debian packages are missing: ${missing.join(', ')}. Install them, then start again:\n  sudo ${command}`,
    );
  console.log(`Installing Debian packages: ${missing.join(', ')} …`);
  const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' };
  const quiet = (args) => spawnSync('apt-get', args, { env, stdio: ['ignore', 'ignore', 'inherit'] }).status === 0;
  quiet(['update', '-qq']);
  if (!quiet(['install', '-y', '-qq', '--no-install-recommends', ...missing]))
    fail(`Debian packages could not be installed. Run this yourself, then start again:\n  ${command}`);
}

export function setUp({ browser = false } = {}) {
  if (Number(process.versions.node.split('.')[0]) < 20)
    fail(`Node 20 or newer is needed; this is ${process.versions.node}.`);
  const { bavail, bsize } = statfsSync(root);
  if (bavail * bsize < 500e6)
    fail(`Only ${Math.round((bavail * bsize) / 1e6)} MB are free on this disk; at least 500 MB are needed.`);
  nodePackages();
  debianPackages(browser);
}
