import pg from 'pg';

/** What a database function needs: a pool, or a client inside somebody's transaction. */
export type Queryable = Pick<pg.Pool, 'query'>;

/**
 * Connections to the database. A broken one never ends the process: whoever uses it gets the error, the next one is
 * new.
 */
export function openPool(connectionString: string, options: Omit<pg.PoolConfig, 'connectionString'> = {}): pg.Pool {
  const pool = new pg.Pool({ connectionString, max: 10, connectionTimeoutMillis: 10_000, ...options });
  pool.on('error', () => undefined);
  // a client that is checked out is not the pool's to listen to: without this its `error` would have no listener
  pool.on('connect', (client) => client.on('error', () => undefined));
  return pool;
}

/** Runs `work` in one transaction; everything is undone when it throws. */
export async function inTransaction<T>(pool: pg.Pool, work: (db: Queryable) => Promise<T>): Promise<T> {
  const client = await pool.connect();
  let broken: Error | undefined;
  try {
    await client.query('begin');
    const result = await work(client);
    await client.query('commit');
    return result;
  } catch (error) {
    // a connection that cannot even roll back is not given back to others
    await client
      .query('rollback')
      .catch((failed: unknown) => (broken = failed instanceof Error ? failed : new Error(String(failed))));
    throw error;
  } finally {
    client.release(broken);
  }
}

/** No connection, or one broken by a shutdown (SQLSTATE class 57P) or on the way (class 08). */
const LOST = ['ECONNREFUSED', 'ECONNRESET', 'EPIPE', 'ENOENT', '57P01', '57P02', '57P03', '08001', '08003', '08006'];
/** node-postgres gives these without a code when a connection breaks under a query or cannot be had. */
const LOST_TEXT =
  /Connection terminated|Client has encountered a connection error|timeout exceeded when trying to connect/;

/** Was this error the database going away, rather than what was asked of it? */
export function isDatabaseAway(error: unknown): boolean {
  if (!(error instanceof Error)) return false;
  const { code, path } = error as { code?: string; path?: string };
  // a file that is not there has a path; a database socket that is not there has none of ours
  return LOST_TEXT.test(error.message) || (code !== undefined && LOST.includes(code) && path === undefined);
}

/** Was something asked for after the server had let go of its database, when it stops? node-postgres gives no code. */
export const isPoolEnded = (error: Error): boolean => error.message.includes('after calling end on the pool');
