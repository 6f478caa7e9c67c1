import { existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, describe, expect, it } from 'vitest';
import { readConfig } from './config.ts';
import { openLog } from './logging.ts';
import { until } from './testing/harness.ts';

const folder = mkdtempSync(join(tmpdir(), 'mellow-log-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

describe('the log', () => {
  it('is lines of JSON in a file, from its level up', async () => {
    const log = openLog('server', { folder: join(folder, 'new'), level: 'info', terminal: false });
    log.debug({}, 'not this');
    log.error({ job: 7 }, 'job failed');
    const file = join(folder, 'new', 'server.log');
    await until('the line', async () => existsSync(file) && readFileSync(file, 'utf8').includes('job failed'));
    const lines = readFileSync(file, 'utf8')
      .trim()
      .split('\n')
      .map((l) => JSON.parse(l) as object);
    expect(lines).toMatchObject([{ level: 50, job: 7, msg: 'job failed', pid: process.pid }]);
  });
  it('of a worker is another file, so that two processes do not turn over each other’s', async () => {
    openLog('worker', { folder, level: 'info', terminal: false }).info({}, 'here');
    await until('the file', async () => existsSync(join(folder, 'worker.log')));
    expect(existsSync(join(folder, 'server.log'))).toBe(false);
  });
  it('is turned over when it has grown, and the old lines are kept beside it', async () => {
    const log = openLog('server', { folder: join(folder, 'large'), level: 'info', terminal: false });
    const long = 'x'.repeat(1_000_000);
    for (let k = 0; k < 12; k++) {
      log.info({ long, k }, 'filling');
      await new Promise((resolve) => setTimeout(resolve, 20));
    }
    await until('the second file', async () => existsSync(join(folder, 'large', 'server.log.1')));
  });
});

describe('the environment', () => {
  const env = { DATABASE_URL: 'postgres://x' };
  it('has defaults for all but the database', () => {
    expect(readConfig(env)).toMatchObject({ host: '127.0.0.1', port: 5280, log: { level: 'info', terminal: false } });
    expect(() => readConfig({})).toThrow('DATABASE_URL is not set');
  });
  it('is refused in plain words where it makes no sense', () => {
    expect(() => readConfig({ ...env, PORT: '99999' })).toThrow('PORT is “99999”');
    expect(() => readConfig({ ...env, PORT: 'x' })).toThrow('PORT');
    expect(() => readConfig({ ...env, LOG_LEVEL: 'loud' })).toThrow('LOG_LEVEL is “loud”');
    expect(() => readConfig({ ...env, HOST: '0.0.0.0' })).toThrow('sign-in');
    expect(readConfig({ ...env, MELLOW_LOG: 'terminal', LOG_LEVEL: 'debug' }).log).toMatchObject({
      level: 'debug',
      terminal: true,
    });
  });
});
