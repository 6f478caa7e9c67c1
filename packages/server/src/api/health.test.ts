import { rmSync } from 'node:fs';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { startHarness, until, type Harness } from '../testing/harness.ts';
import { startLookingThrough } from '../workers.ts';

let h: Harness;
beforeAll(async () => {
  h = await startHarness({ workers: true });
});
afterAll(() => h.close());

it('is ready with database, workers and room; nothing waits', async () => {
  const ready = await until('a sign of life', () => h.call('ready').catch(() => undefined));
  expect(ready).toMatchObject({ running: 0, queued: 0, oldestQueuedSeconds: null });
  expect(ready.workers).toBeGreaterThan(0);
  expect(ready.freeBytes).toBeGreaterThan(1e9);
});
it('says how long work has waited', async () => {
  await h.pool.query(
    `insert into job (id, kind, subject, title, state, total, payload, created_at)
      values (gen_random_uuid(), 'proxies', 'x', 'Proxies', 'queued', 1, '{}', now() - interval '90 seconds')`,
  );
  const { queued, oldestQueuedSeconds } = await h.call('ready');
  expect(queued).toBe(1);
  expect(oldestQueuedSeconds).toBeGreaterThanOrEqual(90);
  expect(oldestQueuedSeconds).toBeLessThan(200);
});
it('is not ready where work waits and nobody takes it up; while others run it may wait', async () => {
  await h.pool.query(`update job set created_at = now() - interval '400 seconds' where state = 'queued'`);
  expect(await h.problem('ready', {})).toMatchObject({
    code: 'unavailable',
    detail: expect.stringMatching(/^Work has waited for 4\d\d s/),
  });
  const another = await h.pool.query<{ id: string }>(
    `insert into job (id, kind, subject, title, state, total, payload)
      values (gen_random_uuid(), 'proxies', 'y', 'Proxies', 'running', 1, '{}') returning id`,
  );
  expect(await h.call('ready')).toMatchObject({ running: 1, queued: 1 });
  await h.pool.query('delete from job where id = $1', [another.rows[0]!.id]);
  await h.pool.query(`delete from job where state = 'queued'`);
});
it('is alive, and not ready, without workers or a media folder', async () => {
  await h.pause();
  // who takes no jobs is none
  const log = { info: () => undefined, error: () => undefined };
  const looking = await startLookingThrough({ pool: h.pool, store: h.store, log }, h.databaseUrl);
  expect(await h.problem('ready', {})).toMatchObject({
    status: 503,
    code: 'unavailable',
    detail: expect.stringMatching(/^No worker/),
  });
  await looking.stop();
  await h.resume();
  await until('a sign of life', () => h.call('ready').catch(() => undefined));
  rmSync(h.store.root, { recursive: true });
  expect(await h.problem('ready', {})).toMatchObject({
    status: 503,
    detail: expect.stringMatching(/^The media folder/),
  });
  expect(await h.call('live')).toMatchObject({ ok: true });
});
