import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { runMigrations } from 'graphile-worker';
import pRetry from 'p-retry';
import type pg from 'pg';
import { inTransaction, isDatabaseAway } from './pool.ts';

const folder = join(import.meta.dirname, 'migrations');

export const migrationFiles = (): string[] =>
  readdirSync(folder)
    .filter((f) => /^\d{6}_\w+\.sql$/.test(f))
    .sort();

/**
 * Applies what is missing. The version row goes in before the SQL, in one transaction: nothing is applied twice.
 * Returns the names applied; throws a plain sentence where the database is of a newer program.
 */
export async function migrate(pool: pg.Pool): Promise<string[]> {
  await pool.query(
    `create table if not exists migration (version integer primary key, name text not null,
      at timestamptz not null default now())`,
  );
  const { rows } = await pool.query<{ version: number }>('select version from migration');
  const known = new Set(rows.map((r) => r.version));
  const [newest, ours] = [Math.max(0, ...known), Number(migrationFiles().at(-1)!.slice(0, 6))];
  if (newest > ours)
    throw new Error(
      `The database is of a newer Mellow Hue (version ${newest} of its tables) than this one (${ours}): ` +
        'start the newer one, or restore a backup of before.',
    );
  const applied: string[] = [];
  for (const file of migrationFiles()) {
    const version = Number(file.slice(0, 6));
    if (known.has(version)) continue;
    await inTransaction(pool, async (db) => {
      await db.query('insert into migration (version, name) values ($1, $2)', [version, file]);
      await db.query(readFileSync(join(folder, file), 'utf8'));
    });
    applied.push(file);
  }
  return applied;
}

/** Half a minute, tried ten times a second: a PostgreSQL that was killed mends itself before it answers. */
const PATIENCE = { retries: 300, minTimeout: 100, maxTimeout: 100, maxRetryTime: 30_000 };

/**
 * Brings our tables and the job queue's up to date; the names of our migrations that were applied. A database that is
 * on its way up is waited for, and `onWait` hears so once; rejects with a plain sentence after half a minute.
 */
export async function prepareDatabase(pool: pg.Pool, onWait: () => void = () => undefined): Promise<string[]> {
  const shouldRetry = ({ error, attemptNumber }: { error: Error; attemptNumber: number }) => {
    const isAway = isDatabaseAway(error);
    if (isAway && attemptNumber === 1) onWait();
    return isAway;
  };
  try {
    return await pRetry(() => prepareOnce(pool), { ...PATIENCE, shouldRetry });
  } catch (error) {
    const { message, code } = error as Error & { code?: string };
    // of a name with two addresses node-postgres gives no text, only the code
    throw isDatabaseAway(error) ? new Error(`The database cannot be reached: ${message || code}`) : error;
  }
}
async function prepareOnce(pool: pg.Pool): Promise<string[]> {
  const client = await pool.connect();
  try {
    // of two that start at once one waits here, and finds all of it done
    await client.query('select pg_advisory_lock($1)', [MIGRATING]);
    const applied = await migrate(pool);
    await runMigrations({ pgPool: pool });
    return applied;
  } finally {
    // the lock goes with the connection, which is ended: also where a query has failed
    client.release(true);
  }
}
/** Any number that nothing else locks by in this database. */
const MIGRATING = 20_261_129;
