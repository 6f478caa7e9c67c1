import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { prepareDatabase } from '../db/migrate.ts';
import { ownDatabase, type OwnDatabase } from '../testing/ownDatabase.ts';
import { assertOwnMedia, identityPath } from './identity.ts';
import { openStore, type MediaStore } from './store.ts';

let database: OwnDatabase;
const stores: MediaStore[] = [];
const newStore = (): MediaStore => {
  const store = openStore(mkdtempSync(join(tmpdir(), 'mellow-')));
  stores.push(store);
  return store;
};
beforeEach(async () => {
  database = await ownDatabase();
  await prepareDatabase(database.pool);
});
afterEach(async () => {
  await database.drop();
  for (const { root } of stores.splice(0)) rmSync(root, { recursive: true });
});

describe('a media folder', () => {
  it('is the database’s from the first start on, also of several at once', async () => {
    const store = newStore();
    await Promise.all([1, 2, 3].map(() => assertOwnMedia(database.pool, store)));
    const { rows } = await database.pool.query<{ media_id: string }>('select media_id from installation');
    expect(rows).toEqual([{ media_id: readFileSync(identityPath(store), 'utf8').trim() }]);
    await assertOwnMedia(database.pool, store);
  });
  it('that is empty, or another’s, is refused, and nothing is written into it', async () => {
    await assertOwnMedia(database.pool, newStore());
    const [empty, another] = [newStore(), newStore()];
    writeFileSync(identityPath(another), 'another');
    await expect(assertOwnMedia(database.pool, empty)).rejects.toThrow(/holds nothing of it.*MELLOW_MEDIA/s);
    await expect(assertOwnMedia(database.pool, another)).rejects.toThrow(/belongs to another/);
    expect(() => readFileSync(identityPath(empty))).toThrow(/ENOENT/);
  });
  it('whose content is lost is taken once it is said so', async () => {
    const [lost, fresh] = [newStore(), newStore()];
    await assertOwnMedia(database.pool, lost);
    const said = await assertOwnMedia(database.pool, fresh).catch(String);
    writeFileSync(identityPath(fresh), /write (\S+) into/.exec(said!)![1]!);
    await assertOwnMedia(database.pool, fresh);
  });
  it('that was kept while its database was made anew goes on with that', async () => {
    const store = newStore();
    writeFileSync(identityPath(store), '7c1de5a0-aaaa-4bbb-8ccc-ddddeeeeffff\n');
    await assertOwnMedia(database.pool, store);
    await assertOwnMedia(database.pool, store);
  });
});
