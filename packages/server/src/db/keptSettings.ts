// Settings of renders under names of one's own.
import { RenderSettings, type KeptSettings } from '@mellow/contract';
import { Refused } from '../errors.ts';
import type { Queryable } from './pool.ts';

/** As many as a list can be looked through. */
const MOST = 200;

/** All that are kept, by name; what is of a preset that there is no more is left out. */
export async function listKeptSettings(db: Queryable): Promise<KeptSettings[]> {
  const { rows } = await db.query<{ name: string; settings: unknown }>(
    'select name, settings from kept_settings order by lower(name), name',
  );
  return rows.flatMap(({ name, settings }) => {
    const read = RenderSettings.safeParse(settings);
    return read.success ? [{ name, ...read.data }] : [];
  });
}
/** Keeps settings; what had their name is replaced. Throws Refused where there are too many. */
export async function keepSettings(db: Queryable, { name, ...settings }: KeptSettings): Promise<void> {
  const { rows } = await db.query<{ others: number }>(
    'select count(*)::int as others from kept_settings where name <> $1',
    [name],
  );
  if (rows[0]!.others >= MOST) throw new Refused('conflict', `${MOST} settings are kept already; drop one first.`);
  await db.query(
    'insert into kept_settings (name, settings) values ($1, $2) on conflict (name) do update set settings = $2',
    [name, settings],
  );
}
export async function dropSettings(db: Queryable, name: string): Promise<void> {
  await db.query('delete from kept_settings where name = $1', [name]);
}
