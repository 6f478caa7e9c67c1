import { ownDatabase, PREPARED } from './ownDatabase.ts';
import { prepareDatabase } from '../db/migrate.ts';

/**
 * Server tests need a real PostgreSQL: `npm test` starts one and names it here. A database with today's tables is made
 * once, of which those of the tests are copies; gives what removes it.
 */
export default async function setup(): Promise<() => Promise<void>> {
  if (!process.env.MELLOW_TEST_DATABASE_URL)
    throw new Error(
      'MELLOW_TEST_DATABASE_URL is not set: run `npm test`, or point it at an empty PostgreSQL database.',
    );
  const { name, pool, drop } = await ownDatabase();
  await prepareDatabase(pool);
  // of a database that somebody is connected to no copy can be made
  await pool.end();
  process.env[PREPARED] = name;
  return drop;
}
