import { randomUUID } from 'node:crypto';
import pg from 'pg';
import { openPool } from '../db/pool.ts';

export interface OwnDatabase {
  pool: pg.Pool;
  url: string;
  drop: () => Promise<void>;
}
/** An empty database on the test cluster; `drop` ends the pool too. */
export async function ownDatabase(): Promise<OwnDatabase> {
  const admin = new pg.Client({ connectionString: process.env.MELLOW_TEST_DATABASE_URL });
  await admin.connect();
  const name = `t_${randomUUID().replaceAll('-', '')}`;
  await admin.query(`create database ${name}`);
  const target = new URL(process.env.MELLOW_TEST_DATABASE_URL!);
  target.pathname = `/${name}`;
  const pool = openPool(target.href);
  return {
    pool,
    url: target.href,
    drop: async () => {
      await pool.end();
      await admin.query(`drop database ${name} with (force)`);
      await admin.end();
    },
  };
}
