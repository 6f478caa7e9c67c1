// People, their roles in projects, and the invitations by which they come in.
import { createHash, randomBytes, randomUUID } from 'node:crypto';
import { Person, type Membership, type NewPerson, type PersonChange, type PersonId, type Role } from '@mellow/contract';
import { NotFound, Refused } from '../errors.ts';
import type { Queryable } from './pool.ts';

const COLUMNS = `id, login, name, kind, is_active as "isActive",
  (password is not null or subject is not null) as "isReady"`;
/** How long an invitation is good for. */
const INVITED_DAYS = 7;

export async function listPeople(db: Queryable): Promise<Person[]> {
  const { rows } = await db.query(`select ${COLUMNS} from person order by name, login`);
  return rows.map((row) => Person.parse(row));
}
export async function findPerson(db: Queryable, id: string): Promise<Person | undefined> {
  const { rows } = await db.query({
    name: 'person.find',
    text: `select ${COLUMNS} from person where id = $1`,
    values: [id],
  });
  return rows.map((row) => Person.parse(row))[0];
}
/** Throws Refused where the login is taken. */
export async function addPerson(db: Queryable, { login, name, kind }: NewPerson): Promise<Person> {
  const { rows } = await db.query(
    `insert into person (id, login, name, kind) values ($1, $2, $3, $4)
      on conflict (login) do nothing returning ${COLUMNS}`,
    [randomUUID(), login, name, kind],
  );
  if (rows[0]) return Person.parse(rows[0]);
  throw new Refused('conflict', `Somebody signs in as “${login}” already.`, [{ path: 'login', message: 'is taken' }]);
}
/**
 * Changes what somebody is called or may do. One admin must be left. Run it inside a transaction. Throws NotFound,
 * Refused.
 */
export async function changePerson(db: Queryable, id: string, { name, kind, isActive }: PersonChange): Promise<Person> {
  // of two admins who each take the other's place one waits here
  await db.query('lock table person in share row exclusive mode');
  const { rows } = await db.query(
    `update person set name = coalesce($2, name), kind = coalesce($3, kind), is_active = coalesce($4, is_active)
      where id = $1 returning ${COLUMNS}`,
    [id, name ?? null, kind ?? null, isActive ?? null],
  );
  if (!rows[0]) throw new NotFound('person', id);
  const { rows: admins } = await db.query(`select 1 from person where kind = 'admin' and is_active`);
  if (admins.length === 0)
    throw new Refused('conflict', 'Somebody must keep the accounts: this is the last admin.', [
      { path: kind ? 'kind' : 'isActive', message: 'is the last admin' },
    ]);
  return Person.parse(rows[0]);
}

/** What somebody signs in with, by their login; undefined for whoever may not come in. */
export async function findPassword(
  db: Queryable,
  login: string,
): Promise<{ id: PersonId; password: string } | undefined> {
  const { rows } = await db.query<{ id: PersonId; password: string }>(
    'select id, password from person where login = $1 and is_active and password is not null',
    [login],
  );
  return rows[0];
}

const hashOf = (token: string): Buffer => createHash('sha256').update(token).digest();
/** Makes a way in; one that was given before is good no more. */
export async function insertInvitation(db: Queryable, personId: string): Promise<{ token: string; expiresAt: string }> {
  const token = randomBytes(24).toString('base64url');
  const { rows } = await db.query<{ expires_at: Date }>(
    `insert into invitation (token_hash, person_id, expires_at) values ($1, $2, now() + make_interval(days => $3))
      on conflict (person_id) do update set token_hash = excluded.token_hash, expires_at = excluded.expires_at
      returning expires_at`,
    [hashOf(token), personId, INVITED_DAYS],
  );
  return { token, expiresAt: rows[0]!.expires_at.toISOString() };
}
export async function findInvited(db: Queryable, token: string): Promise<Person | undefined> {
  const { rows } = await db.query(
    `select ${COLUMNS} from person join invitation on person_id = id
      where token_hash = $1 and expires_at > now() and is_active`,
    [hashOf(token)],
  );
  return rows.map((row) => Person.parse(row))[0];
}
/** Uses an invitation up: of two at once one gets undefined. `password`: hashed. */
export async function acceptInvitation(db: Queryable, token: string, password: string): Promise<Person | undefined> {
  const { rows } = await db.query<{ person_id: string }>(
    'delete from invitation where token_hash = $1 and expires_at > now() returning person_id',
    [hashOf(token)],
  );
  if (!rows[0]) return undefined;
  await db.query('update person set password = $2 where id = $1', [rows[0].person_id, password]);
  return findPerson(db, rows[0].person_id);
}
/** Whoever is signed in as somebody is so no more. */
export async function endSessions(db: Queryable, personId: string): Promise<void> {
  await db.query(`delete from session where sess ->> 'personId' = $1`, [personId]);
}

/**
 * Who an account of the provider is: known by it before, or an account of ours that has its e-mail address for login,
 * which it takes for its own.
 */
export async function findByProvider(
  db: Queryable,
  subject: string,
  email: string | undefined,
): Promise<Person | undefined> {
  const { rows } = await db.query(
    `update person set subject = $1 where id = (
      select id from person where is_active and (subject = $1 or (subject is null and login = $2))
        order by subject is null limit 1) returning ${COLUMNS}`,
    [subject, email?.toLowerCase() ?? null],
  );
  return rows.map((row) => Person.parse(row))[0];
}

export async function listMembers(db: Queryable, projectId: string): Promise<Membership[]> {
  const { rows } = await db.query<Membership['person'] & { role: Role }>(
    `select id, name, login, role from membership join person on person_id = id
      where project_id = $1 and is_active order by name, login`,
    [projectId],
  );
  return rows.map(({ role, ...person }) => ({ person, role }));
}
/** Null takes the role away. Throws NotFound. */
export async function giveRole(db: Queryable, projectId: string, personId: string, role: Role | null): Promise<void> {
  if (!(await findPerson(db, personId))) throw new NotFound('person', personId);
  if (role === null)
    await db.query('delete from membership where project_id = $1 and person_id = $2', [projectId, personId]);
  else
    await db.query(
      `insert into membership (project_id, person_id, role) values ($1, $2, $3)
        on conflict (project_id, person_id) do update set role = excluded.role`,
      [projectId, personId, role],
    );
}
/** Somebody's role in a project. */
export async function roleIn(db: Queryable, projectId: string, personId: string): Promise<Role | undefined> {
  const { rows } = await db.query<{ role: Role }>({
    name: 'membership.role',
    text: 'select role from membership where project_id = $1 and person_id = $2',
    values: [projectId, personId],
  });
  return rows[0]?.role;
}
/** Is somebody an editor of any project? */
export async function isEditorAnywhere(db: Queryable, personId: string): Promise<boolean> {
  const { rowCount } = await db.query({
    name: 'membership.isEditorAnywhere',
    text: `select 1 from membership where person_id = $1 and role = 'editor' limit 1`,
    values: [personId],
  });
  return rowCount === 1;
}
/** Those of the given footage that lie in none of somebody's projects, however its files are read there. */
export async function foreignMedia(db: Queryable, mediaIds: readonly string[], personId: string): Promise<string[]> {
  const { rows } = await db.query<{ id: string }>({
    name: 'membership.foreignMedia',
    text: `select m.id from unnest($1::uuid[]) as m (id) where not exists (
      select 1 from media of_it join media own on own.sha256 = of_it.sha256
        join (select media_id, project_id from shot union all select media_id, project_id from plate) used
          on used.media_id = own.id
        join membership on membership.project_id = used.project_id and person_id = $2
        where of_it.id = m.id)`,
    values: [mediaIds, personId],
  });
  return rows.map((row) => row.id);
}
