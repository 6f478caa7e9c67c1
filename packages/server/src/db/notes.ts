// Notes on frames, the client's and the house's own.
import { Note, type NewNote } from '@mellow/contract';
import { NotFound } from '../errors.ts';
import type { Queryable } from './pool.ts';

const COLUMNS = `id, review_id as "reviewId", shot_id as "shotId", colourway_id as "colourwayId", frame, text, who,
  spot, drawing, is_settled as "isSettled", at`;
const toNote = ({ at, ...row }: { at: Date }): Note => Note.parse({ ...row, at: at.toISOString() });

/** `at` left out: now. */
type Written = NewNote & Partial<Pick<Note, 'at' | 'isSettled'>>;
/**
 * Writes a note, or gives back the one of that id where it has been written before. `reviewId` null: from the house.
 */
export async function addNote(db: Queryable, projectId: string, reviewId: string | null, n: Written): Promise<Note> {
  await db.query(
    `insert into note
      (id, project_id, review_id, shot_id, colourway_id, frame, text, who, spot, drawing, is_settled, at)
      values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, coalesce($12, clock_timestamp()))
      on conflict (id) do nothing`,
    [
      n.id,
      projectId,
      reviewId,
      n.shotId,
      n.colourwayId,
      n.frame,
      n.text,
      n.who,
      n.spot && JSON.stringify(n.spot),
      JSON.stringify(n.drawing),
      n.isSettled ?? false,
      n.at ?? null,
    ],
  );
  const { rows } = await db.query<{ at: Date }>(`select ${COLUMNS} from note where id = $1 and project_id = $2`, [
    n.id,
    projectId,
  ]);
  if (!rows[0]) throw new NotFound('note', n.id);
  return toNote(rows[0]);
}
export async function listNotes(db: Queryable, projectId: string): Promise<Note[]> {
  const { rows } = await db.query<{ at: Date }>(
    `select ${COLUMNS} from note where project_id = $1 order by at desc, id`,
    [projectId],
  );
  return rows.map(toNote);
}
export async function listNotesOfReview(db: Queryable, reviewId: string): Promise<Note[]> {
  const { rows } = await db.query<{ at: Date }>(
    `select ${COLUMNS} from note where review_id = $1 order by at desc, id`,
    [reviewId],
  );
  return rows.map(toNote);
}
/** Throws NotFound where the project has no such note. */
export async function settleNote(db: Queryable, projectId: string, id: string, isSettled: boolean): Promise<Note> {
  const { rows } = await db.query<{ at: Date }>(
    `update note set is_settled = $3 where id = $1 and project_id = $2 returning ${COLUMNS}`,
    [id, projectId, isSettled],
  );
  if (!rows[0]) throw new NotFound('note', id);
  return toNote(rows[0]);
}
