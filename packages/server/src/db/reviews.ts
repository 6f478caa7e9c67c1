// Reviews as they were sent: their link, their films, and what each sighting's picture depended on then.
import { ArchivedProject, Review, SentPage } from '@mellow/contract';
import type { Queryable } from './pool.ts';

export interface NewReviewRow {
  id: string;
  projectId: string;
  name: string;
  token: string;
  page: SentPage;
  daysValid: number;
}
export async function insertReview(db: Queryable, r: NewReviewRow): Promise<void> {
  await db.query(
    `insert into review (id, project_id, name, token, page, expires_at)
      values ($1, $2, $3, $4, $5, now() + make_interval(days => $6))`,
    [r.id, r.projectId, r.name, r.token, JSON.stringify(r.page), r.daysValid],
  );
}
/** `colourwayId` null: as filmed. */
export async function insertReviewFilm(
  db: Queryable,
  f: { reviewId: string; deliveryId: string; shotId: string; colourwayId: string | null; position: number },
): Promise<void> {
  await db.query(
    `insert into review_film (review_id, delivery_id, shot_id, colourway_id, position) values ($1, $2, $3, $4, $5)`,
    [f.reviewId, f.deliveryId, f.shotId, f.colourwayId, f.position],
  );
}
export async function insertReviewSighting(
  db: Queryable,
  s: { reviewId: string; sightingId: string; colourwayId: string; inputs: string },
): Promise<void> {
  await db.query('insert into review_sighting (review_id, sighting_id, colourway_id, inputs) values ($1, $2, $3, $4)', [
    s.reviewId,
    s.sightingId,
    s.colourwayId,
    s.inputs,
  ]);
}

interface Row {
  id: string;
  project_id: string;
  name: string;
  token: string;
  page: unknown;
  created_at: Date;
  expires_at: Date;
  is_open: boolean;
  files: unknown;
}
const SELECT = `select r.id, r.project_id, r.name, r.token, r.page, r.created_at, r.expires_at,
  r.expires_at > now() as is_open,
  (select coalesce(json_agg(json_build_object('deliveryId', f.delivery_id, 'shotId', f.shot_id,
      'colourwayId', f.colourway_id, 'state', j.state, 'done', j.done, 'total', j.total) order by f.position), '[]')
    from review_film f join delivery d on d.id = f.delivery_id join job j on j.id = d.job_id
    where f.review_id = r.id) as files
  from review r`;
const toReview = (row: Row): Review =>
  Review.parse({
    id: row.id,
    projectId: row.project_id,
    name: row.name,
    token: row.token,
    createdAt: row.created_at.toISOString(),
    expiresAt: row.expires_at.toISOString(),
    isOpen: row.is_open,
    files: row.files,
  });

export async function listReviews(db: Queryable, projectId: string): Promise<Review[]> {
  const { rows } = await db.query<Row>(`${SELECT} where r.project_id = $1 order by r.created_at desc, r.id`, [
    projectId,
  ]);
  return rows.map(toReview);
}
/** The review that a link opens, with what was sent; undefined where none does, or none any more. */
export async function findOpenReview(
  db: Queryable,
  token: string,
): Promise<{ review: Review; page: SentPage } | undefined> {
  const { rows } = await db.query<Row>(`${SELECT} where r.token = $1 and r.expires_at > now()`, [token]);
  return rows[0] && { review: toReview(rows[0]), page: SentPage.parse(rows[0].page) };
}
/** Ends a review now. False where the project has no such review. */
export async function endReview(db: Queryable, projectId: string, id: string): Promise<boolean> {
  const { rowCount } = await db.query(
    'update review set expires_at = least(expires_at, now()) where id = $1 and project_id = $2',
    [id, projectId],
  );
  return rowCount === 1;
}

type Sent = ArchivedProject['reviews'][number];
/** What was sent, without links and films. */
export async function listSentPages(db: Queryable, projectId: string): Promise<Sent[]> {
  const { rows } = await db.query<Row>(`${SELECT} where r.project_id = $1 order by r.created_at, r.id`, [projectId]);
  return rows.map((row) => {
    const { id, name, createdAt, expiresAt } = toReview(row);
    return { id, name, createdAt, expiresAt, page: SentPage.parse(row.page) };
  });
}
/** A review that was sent elsewhere: it has ended here, its link opens nothing. */
export async function insertSentPage(db: Queryable, projectId: string, token: string, sent: Sent): Promise<void> {
  await db.query(
    `insert into review (id, project_id, name, token, page, created_at, expires_at)
      values ($1, $2, $3, $4, $5, $6, least($7::timestamptz, now()))`,
    [sent.id, projectId, sent.name, token, JSON.stringify(sent.page), sent.createdAt, sent.expiresAt],
  );
}
