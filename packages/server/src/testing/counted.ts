import type { Queryable } from '../db/pool.ts';

/** A database that counts what it is asked. */
export function counted(of: Queryable): { db: Queryable; queries: () => number } {
  let queries = 0;
  const query = ((...args: Parameters<Queryable['query']>) => {
    queries++;
    return of.query(...args);
  }) as Queryable['query'];
  return { db: { query }, queries: () => queries };
}
