import { expect, it } from 'vitest';
import { openPool } from '../db/pool.ts';
import { problemOf } from './problem.ts';

it('what is asked while the server stops is told so, and is no fault of it', async () => {
  const ended = openPool('postgres://nobody@127.0.0.1/nothing');
  await ended.end();
  const error: unknown = await ended.query('select 1').catch((failed: unknown) => failed);
  const stopped = expect.stringContaining('stopped') as string;
  expect(problemOf(error)).toMatchObject({ status: 503, code: 'unavailable', detail: stopped });
});
it('what nobody foresaw says nothing of the inside', () => {
  const problem = problemOf(new Error('at /srv/secret.ts:12'));
  expect(problem.status).toBe(500);
  expect(JSON.stringify(problem)).not.toContain('secret');
});
