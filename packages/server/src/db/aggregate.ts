import type { Stored } from '@mellow/contract';
import type { z } from 'zod';
import { list, type Listing } from './listing.ts';
import type { Queryable } from './pool.ts';

/** Storage of one kind of edited entity: what the change log needs to apply, undo and list. */
export interface Aggregate<T> {
  find(db: Queryable, id: string): Promise<Stored<T> | undefined>;
  /** Those of which a condition holds, of the entity's own columns. */
  listing(condition: string): Listing<Stored<T>>;
  listByProject(db: Queryable, projectId: string): Promise<Stored<T>[]>;
  /** Inserts at the given revision (an undone removal comes back with a later one than it had). */
  insert(db: Queryable, value: T, revision: number): Promise<void>;
  /** Replaces the entity, which is there, and raises its revision by one. Gives that. */
  update(db: Queryable, value: T): Promise<number>;
  remove(db: Queryable, id: string): Promise<void>;
}

interface Columns<T> {
  table: string;
  /** Property → column; `json` columns are written as JSONB. `id` and the first of these come from here too. */
  columns: { [K in keyof T & string]: { column: string; json?: true } };
  order: string;
  schema: z.ZodType<T>;
}

/**
 * The plain SQL of an entity table, spelled out from its column list. Table and column names are constants of the
 * calling module, never input. Rows are validated on the way out, since JSONB outlives the code that wrote it.
 */
export function aggregate<T extends { id: string }>({ table, columns, order, schema }: Columns<T>): Aggregate<T> {
  const entries = Object.entries(columns) as [keyof T & string, { column: string; json?: true }][];
  const own = entries.map(([property, { column }]) => `${column} as "${property}"`).join(', ');
  // what an older version logged may lack fields that have come since: the schema gives them their defaults
  const values = (logged: T) => {
    const value = schema.parse(logged);
    return entries.map(([property, { json }]) => (json ? JSON.stringify(value[property]) : value[property]));
  };
  const toStored = ({ revision, ...row }: Record<string, unknown>): Stored<T> => ({
    value: schema.parse(row),
    revision: revision as number,
  });
  const listing = (condition: string): Listing<Stored<T>> => ({
    text: `select ${own}, revision from ${table} where ${condition} order by ${order}`,
    toValue: toStored,
  });
  return {
    async find(db, id) {
      const text = `select ${own}, revision from ${table} where id = $1`;
      const { rows } = await db.query<Record<string, unknown>>({ name: `${table}.find`, text, values: [id] });
      return rows[0] && toStored(rows[0]);
    },
    listing,
    listByProject: (db, projectId) => list(db, listing('project_id = $1'), [projectId]),
    async insert(db, value, revision) {
      const names = entries.map(([, { column }]) => column).join(', ');
      const places = entries.map((_, i) => `$${i + 1}`).join(', ');
      await db.query(`insert into ${table} (${names}, revision) values (${places}, $${entries.length + 1})`, [
        ...values(value),
        revision,
      ]);
    },
    async update(db, value) {
      const sets = entries.map(([, { column }], i) => `${column} = $${i + 2}`).join(', ');
      const { rows } = await db.query<{ revision: number }>({
        name: `${table}.update`,
        text: `update ${table} set ${sets}, revision = revision + 1 where id = $1 returning revision`,
        values: [value.id, ...values(value)],
      });
      return rows[0]!.revision;
    },
    async remove(db, id) {
      await db.query(`delete from ${table} where id = $1`, [id]);
    },
  };
}
