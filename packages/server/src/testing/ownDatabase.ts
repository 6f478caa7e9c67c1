import { randomUUID } from 'node:crypto';
import pg from 'pg';
import { openPool } from '../db/pool.ts';

export interface OwnDatabase {
  name: string;
  pool: pg.Pool;
  url: string;
  drop: () => Promise<void>;
}
/** Names the database with today's tables in it that tests copy; where it is not set, they make theirs. */
export const PREPARED = 'MELLOW_TEST_PREPARED_DATABASE';

/** A database on the test cluster, empty, or a copy of the one named; `drop` ends the pool too. */
export async function ownDatabase(of = 'template1'): Promise<OwnDatabase> {
  const admin = new pg.Client({ connectionString: process.env.MELLOW_TEST_DATABASE_URL });
  await admin.connect();
  const name = `t_${randomUUID().replaceAll('-', '')}`;
  await admin.query(`create database ${name} template ${of}`);
  const target = new URL(process.env.MELLOW_TEST_DATABASE_URL!);
  target.pathname = `/${name}`;
  const pool = openPool(target.href);
  return {
    name,
    pool,
    url: target.href,
    drop: async () => {
      if (!pool.ended) await pool.end();
      await admin.query(`drop database ${name} with (force)`);
      await admin.end();
    },
  };
}
/** One with today's tables, or where none has been prepared, an empty one. */
export const preparedDatabase = (): Promise<OwnDatabase> => ownDatabase(process.env[PREPARED]);
