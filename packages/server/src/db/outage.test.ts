// The database going away under the server: nothing ends, nobody hears twice, and what is asked meanwhile is told so.
import { randomUUID } from 'node:crypto';
import pg from 'pg';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { ChangeId, Edit, JobId, PieceId } from '@mellow/contract';
import { queueJob } from '../jobs/queue.ts';
import { startHarness, until, type Harness } from '../testing/harness.ts';
import { findJob } from './jobs.ts';
import { inTransaction, isDatabaseAway } from './pool.ts';

let h: Harness;
let admin: pg.Client;
beforeAll(async () => {
  h = await startHarness({ workers: true });
  admin = new pg.Client({ connectionString: process.env.MELLOW_TEST_DATABASE_URL });
  await admin.connect();
});
afterAll(async () => {
  await admin.end();
  await h.close();
});

/** Ends every connection to the server's database, as a restart of PostgreSQL does. */
const breakAll = () =>
  admin.query('select pg_terminate_backend(pid) from pg_stat_activity where datname = $1', [
    new URL(h.databaseUrl).pathname.slice(1),
  ]);
async function rename(projectId: string, name: string): Promise<void> {
  const { project } = await h.call('getProject', { projectId });
  const edit: Edit = { kind: 'project', id: projectId, revision: project.revision, value: { ...project.value, name } };
  await h.call('change', { projectId }, { id: randomUUID() as ChangeId, label: name, edits: [edit] });
}
/** Everything the server sends to one who has the project open. */
async function listening(projectId: string): Promise<{ heard: () => string; stop: () => void }> {
  const abort = new AbortController();
  const stream = await fetch(`${h.url}/api/projects/${projectId}/events`, { signal: abort.signal });
  let heard = '';
  const read = async () => {
    for await (const text of stream.body!.pipeThrough(new TextDecoderStream())) heard += text;
  };
  read().catch(() => undefined);
  await until('the stream', async () => heard.includes('retry'));
  return { heard: () => heard, stop: () => abort.abort() };
}
const count = (text: string, part: string) => text.split(part).length - 1;

describe('connections that break', () => {
  it('under transactions end those with a plain error, and the next ones go through', async () => {
    // what the queue does then has a test of its own
    await h.pause();
    for (let k = 0; k < 5; k++) {
      const held = Array.from({ length: 4 }, () =>
        inTransaction(h.pool, async (db) => {
          await db.query('select pg_sleep(5)');
        }).then(
          () => 'done',
          (error: unknown) => (isDatabaseAway(error) ? 'away' : String(error)),
        ),
      );
      await until('the transactions', async () => {
        const { rows } = await admin.query(
          `select 1 from pg_stat_activity where datname = $1 and query like '%pg_sleep%'`,
          [new URL(h.databaseUrl).pathname.slice(1)],
        );
        return rows.length === 4;
      });
      await breakAll();
      expect(await Promise.all(held)).toEqual(['away', 'away', 'away', 'away']);
      expect((await h.pool.query<{ one: number }>('select 1 as one')).rows).toEqual([{ one: 1 }]);
    }
  });
  it('are made again by the event hub: each edit is told once, however often they broke', async () => {
    const { id } = await h.call('createProject', {}, { name: 'Outage' });
    const { heard, stop } = await listening(id);
    for (let k = 1; k <= 3; k++) {
      await breakAll();
      // told that something may have been missed once the connection stands again
      await until('the listener', async () => count(heard(), 'event: missed') >= k);
      await until('a working connection', () => h.pool.query('select 1').then(Boolean, () => false));
      await rename(id, `Outage ${k}`);
      await until('the edit', async () => count(heard(), 'event: change') >= k);
    }
    // one more that comes last: whatever came twice would have come before it
    await rename(id, 'Last');
    await until('the last edit', async () => count(heard(), 'event: change') >= 4);
    expect([count(heard(), 'event: change'), count(heard(), 'event: missed')]).toEqual([4, 3]);
    stop();
  });
  it('are told to whoever asks meanwhile as 503, with nothing changed', async () => {
    const unreachable = new pg.Client({ connectionString: 'postgres://x@127.0.0.1:1/none' });
    const refused = await unreachable.connect().catch((error: unknown) => error);
    expect(isDatabaseAway(refused)).toBe(true);
    expect(isDatabaseAway(Object.assign(new Error('no such file'), { code: 'ENOENT', path: '/x' }))).toBe(false);
    expect(isDatabaseAway(Object.assign(new Error('unique'), { code: '23505' }))).toBe(false);
  });
  it('do not stop the queue: work queued afterwards is done', async () => {
    await h.resume();
    await breakAll();
    const id = randomUUID() as JobId;
    const job = { id, projectId: null, kind: 'proxy' as const, subject: 'x', title: 'None', total: 1, payload: {} };
    await until('a working connection', () => h.pool.query('select 1').then(Boolean, () => false));
    await queueJob(h.pool, job);
    // its payload names no media: it ends as failed, by a worker
    await until('the job', async () => (await findJob(h.pool, id))!.job.state === 'failed');
  });
});

describe('a large change', () => {
  it('of 500 edits is saved, told and undone', async () => {
    const { id } = await h.call('createProject', {}, { name: 'Large' });
    const projectId = id;
    const { heard, stop } = await listening(id);
    const edits = Array.from({ length: 500 }, (_, position): Edit => {
      const pieceId = randomUUID() as PieceId;
      const value = {
        id: pieceId,
        projectId,
        name: `Piece ${position}`,
        kind: 'prop' as const,
        position,
        partOf: null,
      };
      return { kind: 'piece', id: pieceId, revision: null, value };
    });
    const answer = await h.call('change', { projectId }, { id: randomUUID() as ChangeId, label: 'Many', edits });
    expect(Object.keys(answer.revisions)).toHaveLength(500);
    await until('the event', async () => heard().includes(`data: {"seq":${answer.seq}}`));
    await h.call('undo', { projectId }, { id: randomUUID() as ChangeId });
    expect((await h.call('getProject', { projectId })).pieces).toEqual([]);
    stop();
  });
});
