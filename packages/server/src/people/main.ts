// `npm run invite -- LOGIN "NAME" [admin | member | guest]`: an account, where there is none, and the link by which
// somebody chooses a password for it. The first admin comes in by it, and whoever has lost a password.
import { Login, NewPerson, PersonKind } from '@mellow/contract';
import { readConfig } from '../config.ts';
import { prepareDatabase } from '../db/migrate.ts';
import { addPerson, insertInvitation, listPeople } from '../db/people.ts';
import { inTransaction, openPool } from '../db/pool.ts';

async function main(): Promise<void> {
  const [login = '', name, kind = 'admin'] = process.argv.slice(2);
  const { databaseUrl, url, signIn } = readConfig(process.env);
  const wanted = Login.safeParse(login);
  if (!wanted.success) throw new Error('Say who: npm run invite -- LOGIN "NAME" [admin | member | guest]');
  if (!PersonKind.safeParse(kind).success) throw new Error(`“${kind}” is none of ${PersonKind.options.join(', ')}.`);
  const pool = openPool(databaseUrl);
  try {
    await prepareDatabase(pool);
    const { person, token, expiresAt } = await inTransaction(pool, async (db) => {
      const known = (await listPeople(db)).find((p) => p.login === wanted.data);
      const found = known ?? (await addPerson(db, NewPerson.parse({ login, name: name ?? login, kind })));
      return { person: found, ...(await insertInvitation(db, found.id)) };
    });
    console.log(`${person.name} (${person.login}, ${person.kind}) chooses a password here, until ${expiresAt}:`);
    console.log(new URL(`/invitation/${token}`, url).href);
    if (!signIn) console.log('Nobody signs in yet: start with MELLOW_URL set, or with MELLOW_SIGN_IN=on.');
  } finally {
    await pool.end();
  }
}

await main().catch((error: unknown) => {
  process.stderr.write(`${error instanceof Error ? error.message : String(error)}\n`);
  process.exit(1);
});
