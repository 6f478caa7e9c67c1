import type {
  ArchivedHistory,
  ChangeAnswer,
  ChangeEntry,
  ChangeRequest,
  Edit,
  EntityKind,
  Stored,
} from '@mellow/contract';
import type pg from 'pg';
import { NotFound, Refused, StaleRevision } from '../errors.ts';
import { isOf, type Author } from './author.ts';
import { aggregateOf, dependentsOf } from './entities.ts';
import { historyOf } from './history.ts';
import { queueLookThrough } from './keyedWork.ts';
import { notification } from './notify.ts';
import { inTransaction, type Queryable } from './pool.ts';
import { assertReferencesWithin } from './references.ts';

export type Value = { id: string; projectId?: string };
/** One entity before and after; null stands for not existing. Kept for ever in the log. */
export interface LoggedEdit {
  kind: EntityKind;
  id: string;
  before: Value | null;
  after: Value | null;
}

/**
 * Edits of a project happen one after another: the second waits here for the first. Not for whoever has just written a
 * row that refers to the project, which holds its key: two such who then edit it would wait for one another.
 */
export async function lockProject(db: Queryable, projectId: string): Promise<void> {
  const text = 'select 1 from project where id = $1 for no key update';
  const { rowCount } = await db.query({ name: 'project.lock', text, values: [projectId] });
  if (rowCount === 0) throw new NotFound('project', projectId);
}

/** Writes what an entity becomes; null removes it. `isThere`: is it stored now? Gives its revision then, 0 without. */
export async function write(
  db: Queryable,
  kind: EntityKind,
  id: string,
  value: Value | null,
  isThere: boolean,
): Promise<number> {
  const store = aggregateOf(kind);
  if (value === null) {
    await store.remove(db, id);
    return 0;
  }
  if (isThere) return store.update(db, value);
  const revision = await nextRevision(db, id);
  await store.insert(db, value, revision);
  return revision;
}

/** A thing that comes back after removal must not reuse a revision that somebody may still hold. */
async function nextRevision(db: Queryable, id: string): Promise<number> {
  const { rows } = await db.query<{ top: number | null }>(
    'select max((revisions ->> $1)::integer) as top from change where revisions ? $1',
    [id],
  );
  return (rows[0]?.top ?? 0) + 1;
}

/** Says that the project has changed, and what its author can undo now. */
export async function answer(
  db: Queryable,
  projectId: string,
  by: Author,
  seq: number,
  revisions: Record<string, number>,
): Promise<ChangeAnswer> {
  await db.query({
    name: 'project.changed',
    text: 'update project set updated_at = now() where id = $1 returning pg_notify($2, $3)',
    values: [projectId, ...notification(projectId, 'change', { seq })],
  });
  await queueLookThrough(db, projectId);
  return { seq, revisions, history: await historyOf(db, projectId, by.id) };
}

function assertSameProject(edit: Edit, projectId: string, current: Stored<Value> | undefined): void {
  const owners = [edit.value, current?.value]
    .filter((v) => v !== null && v !== undefined)
    .map((v) => (edit.kind === 'project' ? v.id : (v as Value).projectId));
  if (owners.some((owner) => owner !== projectId))
    throw new Refused('invalid-input', `${edit.kind} ${edit.id} belongs to another project.`, [
      { path: 'edits', message: 'belongs to another project' },
    ]);
  if (edit.value && edit.value.id !== edit.id)
    throw new Refused('invalid-input', `The value of ${edit.kind} ${edit.id} has another id.`, [
      { path: 'edits', message: 'id differs from value.id' },
    ]);
  if (edit.kind === 'project' && edit.value === null)
    throw new Refused('invalid-input', 'A project cannot be removed by an edit.', [
      { path: 'edits', message: 'a project cannot be removed here' },
    ]);
}

/** Applies a change inside the caller's transaction; see `applyChange`. */
export async function applyChangeWithin(
  db: Queryable,
  projectId: string,
  request: ChangeRequest,
  by: Author,
): Promise<ChangeAnswer> {
  await lockProject(db, projectId);
  const { rows: repeats } = await db.query<{ seq: string; revisions: Record<string, number> }>({
    name: 'change.repeats',
    text: 'select seq, revisions from change where id = $1 and project_id = $2',
    values: [request.id, projectId],
  });
  if (repeats[0])
    return {
      seq: Number(repeats[0].seq),
      revisions: repeats[0].revisions,
      history: await historyOf(db, projectId, by.id),
    };

  await assertReferencesWithin(db, projectId, request.edits);
  const edits: LoggedEdit[] = [];
  const revisions: Record<string, number> = {};
  for (const edit of request.edits) {
    const current = await aggregateOf(edit.kind).find(db, edit.id);
    assertSameProject(edit, projectId, current);
    if ((current?.revision ?? null) !== edit.revision) throw new StaleRevision(edit.kind, edit.id, current);
    if (edit.value === null)
      for (const { kind, id } of await dependentsOf(db, edit.kind, edit.id)) {
        const dependent = (await aggregateOf(kind).find(db, id)) as Stored<Value>;
        edits.push({ kind, id, before: dependent.value, after: null });
        revisions[id] = dependent.revision;
        await write(db, kind, id, null, true);
      }
    const revision = await write(db, edit.kind, edit.id, edit.value, current !== undefined);
    revisions[edit.id] = edit.value ? revision : (current?.revision ?? 0);
    edits.push({ kind: edit.kind, id: edit.id, before: current?.value ?? null, after: edit.value });
  }
  const { rows } = await db.query<{ seq: string }>({
    name: 'change.log',
    text: `with passed as (update change set state = 'abandoned'
        where project_id = $1 and state = 'undone' and ${isOf('$2')})
      insert into change (project_id, person_id, who, id, label, edits, revisions, state)
        values ($1, $2, $3, $4, $5, $6, $7, 'done') returning seq`,
    values: [
      ...[projectId, by.id, by.name],
      ...[request.id, request.label, JSON.stringify(edits), JSON.stringify(revisions)],
    ],
  });
  return answer(db, projectId, by, Number(rows[0]!.seq), revisions);
}

/**
 * Applies a named change, all or nothing, and logs it. A repeat with the same id answers as the first time did.
 * Throws StaleRevision when an entity has moved on, NotFound for an unknown project.
 */
export const applyChange = (
  pool: pg.Pool,
  projectId: string,
  request: ChangeRequest,
  by: Author,
): Promise<ChangeAnswer> => inTransaction(pool, (db) => applyChangeWithin(db, projectId, request, by));

export async function listChanges(db: Queryable, projectId: string): Promise<ChangeEntry[]> {
  const { rows } = await db.query<{ seq: string; at: Date; who: string; label: string; state: ChangeEntry['state'] }>(
    'select seq, at, who, label, state from change where project_id = $1 order by seq desc limit 500',
    [projectId],
  );
  return rows.map((row) => ({ ...row, seq: Number(row.seq), at: row.at.toISOString() }));
}

type Logged = ArchivedHistory[number];
/** The whole log with what each change did, oldest first. */
export async function listHistory(db: Queryable, projectId: string): Promise<ArchivedHistory> {
  const { rows } = await db.query<Omit<Logged, 'at'> & { at: Date }>(
    'select at, who, label, state, edits, revisions from change where project_id = $1 order by seq',
    [projectId],
  );
  return rows.map((row) => ({ ...row, at: row.at.toISOString() }));
}
/** Writes a change into the log as it was made elsewhere; `personId`: whose undo it is here. */
export async function insertLogged(
  db: Queryable,
  projectId: string,
  id: string,
  change: Logged,
  personId: string | null,
): Promise<void> {
  const { at, who, label, state, edits, revisions } = change;
  await db.query(
    `insert into change (id, project_id, at, who, label, edits, revisions, state, person_id)
      values ($1, $2, $3, $4, $5, $6, $7, $8, $9)`,
    [id, projectId, at, who, label, JSON.stringify(edits), JSON.stringify(revisions), state, personId],
  );
}
