import pg from 'pg';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { counted } from '../testing/counted.ts';
import { list, listsOf, type Listing } from './listing.ts';

let pool: pg.Pool;
beforeAll(() => void (pool = new pg.Pool({ connectionString: process.env.MELLOW_TEST_DATABASE_URL })));
afterAll(() => pool.end());

const numbers = (order: string): Listing<number> => ({
  text: `select n from generate_series(1, $1::int) as n order by n ${order}`,
  toValue: ({ n }) => n as number,
});
const NAMES: Listing<string> = {
  text: `select 'over ' || $1 as name where $1 > 2`,
  toValue: ({ name }) => name as string,
};
const lists = listsOf('test.lists', { up: numbers('asc'), names: NAMES, down: numbers('desc') });

it('gives each list in its own order, and one that is empty', async () => {
  expect(await lists(pool, [3])).toEqual({ up: [1, 2, 3], names: ['over 3'], down: [3, 2, 1] });
  expect(await lists(pool, [2])).toEqual({ up: [1, 2], names: [], down: [2, 1] });
  const { up, down } = await lists(pool, [500]);
  expect(up).toEqual(down.reverse());
});
it('asks for all of them at once', async () => {
  const { db, queries } = counted(pool);
  await lists(db, [3]);
  expect(queries()).toBe(1);
});
it('says the same as a list that is asked for alone', async () => {
  // what JSON could round: the number nearest to a third, the largest that is a float, a whole number beyond 2^53
  const kept: Listing<unknown> = {
    text: `select 1.0::float8 / 3 as third, 3.4028235e38::real as large, null as nothing,
      '{"deep": [9007199254740993, 1e-7, "✓"]}'::jsonb as inner, array[0.1, 0.2]::real[] as tenths where $1 = 1`,
    toValue: (row) => row,
  };
  const alone = await list(pool, kept, [1]);
  expect((await listsOf('test.kept', { kept })(pool, [1])).kept).toEqual(alone);
  expect(alone).toMatchObject([{ third: 1 / 3, tenths: [0.1, 0.2], nothing: null }]);
});
