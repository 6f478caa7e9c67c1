import pg from 'pg';

/** Server tests need a real PostgreSQL: `npm test` starts one and names it here. */
export default async function setup(): Promise<void> {
  const url = process.env.MELLOW_TEST_DATABASE_URL;
  if (!url)
    throw new Error(
      'MELLOW_TEST_DATABASE_URL is not set: run `npm test`, or point it at an empty PostgreSQL database.',
    );
  const client = new pg.Client({ connectionString: url });
  await client.connect();
  await client.end();
}
