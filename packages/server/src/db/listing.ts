import { breather } from '../breather.ts';
import type { Queryable } from './pool.ts';

type Row = Record<string, unknown>;
/** A list: what it is in the database, and what is made of its rows. */
export interface Listing<T> {
  /** A query that gives the rows in their order; `$1` and so on are what whoever asks gives with it. */
  text: string;
  /** `row`: what JSON has of it, which knows no times. */
  toValue: (row: Row) => T;
}
type Listings = Record<string, Listing<unknown>>;
type Listed<L extends Listings> = { [K in keyof L]: L[K] extends Listing<infer T> ? T[] : never };

export async function list<T>(db: Queryable, { text, toValue }: Listing<T>, values: readonly unknown[]): Promise<T[]> {
  const { rows } = await db.query<Row>(text, [...values]);
  // thousands of them, each held against its schema
  const breathe = breather();
  const listed: T[] = [];
  for (const row of rows) {
    listed.push(toValue(row));
    await breathe();
  }
  return listed;
}

interface PartRow {
  part: string;
  row: Row;
}
/**
 * Several lists by one statement, so that they are of one moment: a query costs more to send and to plan than a few
 * rows cost to find. `name`: of the statement, which each connection plans once; all lists take the same values.
 */
export function listsOf<L extends Listings>(
  name: string,
  listings: L,
): (db: Queryable, values: readonly unknown[]) => Promise<Listed<L>> {
  const part = ([of, { text }]: [string, Listing<unknown>]) =>
    `select '${of}' as part, row_number() over () as n, row_to_json(r) as row from (${text}) as r`;
  // rows of a union have no order of their own
  const text = `${Object.entries(listings).map(part).join('\nunion all ')}\norder by n`;
  return async (db, values) => {
    const { rows } = await db.query<PartRow>({ name, text, values: [...values] });
    const listed = Object.fromEntries(Object.keys(listings).map((of): [string, unknown[]] => [of, []]));
    const breathe = breather();
    for (const { part, row } of rows) {
      listed[part]!.push(listings[part]!.toValue(row));
      await breathe();
    }
    return listed as Listed<L>;
  };
}
