// The server as it is built: every thread that its sources name lies beside it and loads without the sources.
import { execFileSync } from 'node:child_process';
import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { beforeAll, expect, it } from 'vitest';

const script = pathToFileURL(join(import.meta.dirname, 'build.mjs')).href;
const run = (text: string): string =>
  execFileSync(process.execPath, ['--input-type=module', '-e', text], {
    encoding: 'utf8',
    env: { PATH: process.env.PATH },
  });
let main = '';
beforeAll(() => {
  main = run(`console.log(await (await import('${script}')).buildServer())`).trim();
});

const sources = join(import.meta.dirname, '../packages/server/src');
const threads = readdirSync(sources, { recursive: true, encoding: 'utf8' })
  .filter((file) => file.endsWith('.ts') && !file.endsWith('.test.ts'))
  .flatMap((file) => [...readFileSync(join(sources, file), 'utf8').matchAll(/URL\('\.\/(\w+\.mjs)', import\.meta/g)])
  .map(([, name]) => name!);

it('has the threads that the sources name', () => {
  expect(threads.length).toBeGreaterThan(3);
  for (const name of threads) expect(existsSync(join(dirname(main), name)), name).toBe(true);
});
/** Threads that are told what to do from outside, and answer in their own way. */
const OWN_WAYS = ['trackThread.mjs', 'workThread.mjs'];
it.each(threads.filter((name) => !OWN_WAYS.includes(name)))('%s answers what it is asked', (name) => {
  const file = pathToFileURL(join(dirname(main), name)).href;
  expect(run(`console.log(typeof (await import('${file}')).default)`).trim()).toBe('function');
});
it('has a thread that works, which begins where it can and else says why', () => {
  const workerData = { databaseUrl: 'postgres://nowhere', mediaRoot: '/dev/null/media', level: 'info' };
  const begin = `new Worker(new URL('${pathToFileURL(join(dirname(main), 'workThread.mjs')).href}'), options)`;
  const said = run(`import { Worker } from 'node:worker_threads';
    const options = { execArgv: [], workerData: ${JSON.stringify(workerData)} };
    ${begin}.on('error', (error) => console.log(error.message));`);
  expect(said).toContain('ENOTDIR');
});
it('is begun by no thread', () => {
  for (const file of readdirSync(dirname(main)).filter((name) => name.endsWith('.mjs')))
    expect(readFileSync(join(dirname(main), file), 'utf8'), file).not.toMatch(/from ["']\.\/main\.mjs/);
});
it('is left alone where nothing has changed', () => {
  const before = readdirSync(dirname(main));
  expect(run(`console.log(await (await import('${script}')).buildServer())`).trim()).toBe(main);
  expect(readdirSync(dirname(main))).toEqual(before);
});
it('has the steps of its database', () => {
  expect(readdirSync(join(dirname(main), 'migrations'))).toEqual(readdirSync(join(sources, 'db/migrations')));
});
