import pg from 'pg';

/** What a database function needs: a pool, or a client inside somebody's transaction. */
export type Queryable = Pick<pg.Pool, 'query'>;

export function openPool(connectionString: string): pg.Pool {
  const pool = new pg.Pool({ connectionString, max: 10 });
  // An idle connection that breaks (server restarted) must not end the process; the next query reports it.
  pool.on('error', () => undefined);
  return pool;
}

/** Runs `work` in one transaction; everything is undone when it throws. */
export async function inTransaction<T>(pool: pg.Pool, work: (db: Queryable) => Promise<T>): Promise<T> {
  const client = await pool.connect();
  try {
    await client.query('begin');
    const result = await work(client);
    await client.query('commit');
    return result;
  } catch (error) {
    await client.query('rollback').catch(() => undefined);
    throw error;
  } finally {
    client.release();
  }
}
