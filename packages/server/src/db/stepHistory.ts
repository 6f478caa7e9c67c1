// Undo and redo of one's own steps, whatever others have done since.
import { ENTITIES, type ChangeAnswer } from '@mellow/contract';
import type pg from 'pg';
import { Refused } from '../errors.ts';
import { isOf, type Author } from './author.ts';
import { answer, lockProject, write, type LoggedEdit, type Value } from './changes.ts';
import { aggregateOf, dependentsOf } from './entities.ts';
import { historyOf } from './history.ts';
import { notify } from './notify.ts';
import { inTransaction, type Queryable } from './pool.ts';
import { Clash, stepped } from './takenBack.ts';

export type Direction = 'undo' | 'redo';
interface Step {
  seq: string;
  label: string;
  edits: LoggedEdit[];
}
/** Throws where whoever asks may not take a step. */
type AssertMay = (edits: readonly LoggedEdit[]) => void;

const NEXT_STEP: Record<Direction, string> = {
  undo: `select seq, label, edits from change where project_id = $1 and ${isOf('$2')}
    and state = 'done' order by seq desc limit 1`,
  redo: `select seq, label, edits from change where project_id = $1 and ${isOf('$2')}
    and state = 'undone' order by seq limit 1`,
};

/** A step that cannot be taken: of what stands another has changed the same. */
class Overtaken extends Error {
  readonly step: Step;
  readonly id: string;
  constructor(step: Step, id: string) {
    super('overtaken');
    this.step = step;
    this.id = id;
  }
}

/** What an entity becomes when a step is taken back or on; throws Clash. */
async function next(db: Queryable, { kind, id, before, after }: LoggedEdit, direction: Direction) {
  // what was logged by an earlier version lacks what has been added since
  const whole = (value: Value | null) => value && (ENTITIES[kind].safeParse(value).data ?? value);
  const [from, to] = (direction === 'undo' ? [after, before] : [before, after]).map(whole);
  const stored = await aggregateOf(kind).find(db, id);
  const now: Value | null = stored?.value ?? null;
  const value = stepped(now, from, to) as typeof now;
  // what others have made of it since would go with it
  if (value === null && now && (await dependentsOf(db, kind, id)).length > 0) throw new Clash();
  return { kind, id, value, isThere: now !== null };
}

async function take(db: Queryable, step: Step, direction: Direction): Promise<Record<string, number>> {
  const revisions: Record<string, number> = {};
  for (const edit of direction === 'undo' ? [...step.edits].reverse() : step.edits)
    try {
      const { kind, id, value, isThere } = await next(db, edit, direction);
      const revision = await write(db, kind, id, value, isThere);
      if (revision > 0) revisions[id] = revision;
    } catch (error) {
      // 23503: what it stands on has been removed meanwhile
      if (error instanceof Clash || (error as { code?: string }).code === '23503') throw new Overtaken(step, edit.id);
      throw error;
    }
  return revisions;
}

/** The step is left as it is and passed over from now on, and why is said. */
async function passOver(pool: pg.Pool, projectId: string, { step, id }: Overtaken, direction: Direction) {
  const { rows } = await pool.query<{ who: string; label: string }>(
    `select who, label from change where project_id = $1 and seq > $2 and revisions ? $3 and state = 'done'
      order by seq desc limit 1`,
    [projectId, step.seq, id],
  );
  await pool.query(`update change set state = 'abandoned' where seq = $1`, [step.seq]);
  await notify(pool, projectId, 'change', { seq: Number(step.seq) });
  const since = rows[0] ? `: ${rows[0].who} has changed the same since (“${rows[0].label}”)` : '';
  const done = direction === 'undo' ? 'taken back' : 'done again';
  const text = `“${step.label}” cannot be ${done}${since}. It stays as it is and is passed over now.`;
  return new Refused('conflict', text);
}

/**
 * Takes one's last change back (`undo`) or applies the one last taken back again (`redo`); what others have changed
 * beside it stays. A repeat with the same id answers as the first time did. Throws Refused where there is nothing to
 * step to, and where others have changed the same.
 */
export async function stepHistory(
  pool: pg.Pool,
  projectId: string,
  direction: Direction,
  id: string,
  by: Author,
  assertMay: AssertMay = () => undefined,
): Promise<ChangeAnswer> {
  try {
    return await inTransaction(pool, (db) => stepWithin(db, projectId, direction, id, by, assertMay));
  } catch (error) {
    if (error instanceof Overtaken) throw await passOver(pool, projectId, error, direction);
    throw error;
  }
}
async function stepWithin(
  db: Queryable,
  projectId: string,
  direction: Direction,
  id: string,
  by: Author,
  assertMay: AssertMay,
): Promise<ChangeAnswer> {
  await lockProject(db, projectId);
  const { rows: repeats } = await db.query<{ seq: string; revisions: Record<string, number> }>(
    'select change_seq as seq, revisions from history_step where id = $1 and project_id = $2',
    [id, projectId],
  );
  if (repeats[0])
    return {
      seq: Number(repeats[0].seq),
      revisions: repeats[0].revisions,
      history: await historyOf(db, projectId, by.id),
    };
  const { rows } = await db.query<Step>(NEXT_STEP[direction], [projectId, by.id]);
  const step = rows[0];
  if (!step) throw new Refused('conflict', `There is nothing to ${direction}.`);
  assertMay(step.edits);
  const revisions = await take(db, step, direction);
  await db.query('update change set state = $2, revisions = revisions || $3 where seq = $1', [
    step.seq,
    direction === 'undo' ? 'undone' : 'done',
    JSON.stringify(revisions),
  ]);
  await db.query(
    `insert into history_step (id, project_id, change_seq, direction, who, person_id, revisions)
      values ($1, $2, $3, $4, $5, $6, $7)`,
    [id, projectId, step.seq, direction, by.name, by.id, JSON.stringify(revisions)],
  );
  return answer(db, projectId, by, Number(step.seq), revisions);
}
