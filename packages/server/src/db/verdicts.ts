// What clients have decided: every word of it is kept, the last one counts.
import { Verdict, type NewVerdict } from '@mellow/contract';
import type { Queryable } from './pool.ts';

/** A repeat with the same id changes nothing. `at` left out: now. */
export async function insertVerdict(db: Queryable, reviewId: string, v: NewVerdict, at?: string): Promise<void> {
  await db.query(
    `insert into verdict (id, review_id, sighting_id, colourway_id, decision, who, text, at)
      values ($1, $2, $3, $4, $5, $6, $7, coalesce($8, clock_timestamp())) on conflict (id) do nothing`,
    [v.id, reviewId, v.sightingId, v.colourwayId, v.decision, v.who, v.text, at ?? null],
  );
}

interface Row {
  id: string;
  review_id: string;
  sighting_id: string;
  colourway_id: string;
  decision: string;
  who: string;
  text: string;
  at: Date;
  inputs: string;
}
const toVerdict = (row: Row): Verdict =>
  Verdict.parse({
    id: row.id,
    reviewId: row.review_id,
    sightingId: row.sighting_id,
    colourwayId: row.colourway_id,
    decision: row.decision,
    who: row.who,
    text: row.text,
    at: row.at.toISOString(),
  });
/** The last of each sighting and colourway among those that a condition lets through. */
const lastWhere = (condition: string): string =>
  `select distinct on (v.sighting_id, v.colourway_id) v.id, v.review_id, v.sighting_id, v.colourway_id, v.decision,
     v.who, v.text, v.at, s.inputs
   from verdict v join review r on r.id = v.review_id
   join review_sighting s using (review_id, sighting_id, colourway_id)
   where ${condition} order by v.sighting_id, v.colourway_id, v.at desc`;

export async function lastVerdictsOfReview(db: Queryable, reviewId: string): Promise<Verdict[]> {
  const { rows } = await db.query<Row>(lastWhere('v.review_id = $1'), [reviewId]);
  return rows.map(toVerdict);
}
/** With `inputs`, what the picture depended on that it was said of. */
export async function lastVerdictsOfProject(
  db: Queryable,
  projectId: string,
): Promise<{ verdict: Verdict; inputs: string }[]> {
  const { rows } = await db.query<Row>(lastWhere('r.project_id = $1'), [projectId]);
  return rows.map((row) => ({ verdict: toVerdict(row), inputs: row.inputs }));
}
