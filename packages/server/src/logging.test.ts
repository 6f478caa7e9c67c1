import { existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, describe, expect, it } from 'vitest';
import { openLog } from './logging.ts';
import { until } from './testing/harness.ts';

const folder = mkdtempSync(join(tmpdir(), 'mellow-log-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

describe('the log', () => {
  it('is lines of JSON in a file, from its level up', async () => {
    const { log } = openLog('server', { folder: join(folder, 'new'), level: 'info', terminal: false });
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
    openLog('worker', { folder, level: 'info', terminal: false }).log.info({}, 'here');
    await until('the file', async () => existsSync(join(folder, 'worker.log')));
    expect(existsSync(join(folder, 'server.log'))).toBe(false);
  });
  it('is turned over when it has grown, and the old lines are kept beside it', async () => {
    const { log } = openLog('server', { folder: join(folder, 'large'), level: 'info', terminal: false });
    const long = 'x'.repeat(1_000_000);
    for (let k = 0; k < 12; k++) {
      log.info({ long, k }, 'filling');
      await new Promise((resolve) => setTimeout(resolve, 20));
    }
    await until('the second file', async () => existsSync(join(folder, 'large', 'server.log.1')));
  });
});
