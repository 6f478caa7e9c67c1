import { Delivery } from '@mellow/contract';
import { toJob } from './jobs.ts';
import type { Queryable } from './pool.ts';

export interface NewDelivery {
  id: string;
  projectId: string;
  shotId: string;
  shotName: string;
  colourwayName: string;
  preset: string;
  jobId: string;
  fileName: string;
}
export async function insertDelivery(db: Queryable, d: NewDelivery): Promise<void> {
  await db.query(
    `insert into delivery (id, project_id, shot_id, shot_name, colourway_name, preset, job_id, file_name)
      values ($1, $2, $3, $4, $5, $6, $7, $8)`,
    [d.id, d.projectId, d.shotId, d.shotName, d.colourwayName, d.preset, d.jobId, d.fileName],
  );
}
/** Films of a review are not handed over. */
const IS_HANDED_OVER = 'not exists (select 1 from review_film f where f.delivery_id = d.id)';
/** How many renders there are of a shot in a colourway and format. */
export async function countDeliveries(
  db: Queryable,
  d: Pick<NewDelivery, 'projectId' | 'shotId' | 'colourwayName' | 'preset'>,
): Promise<number> {
  const { rows } = await db.query<{ n: number }>(
    `select count(*)::int as n from delivery d
      where project_id = $1 and shot_id = $2 and colourway_name = $3 and preset = $4 and ${IS_HANDED_OVER}`,
    [d.projectId, d.shotId, d.colourwayName, d.preset],
  );
  return rows[0]!.n;
}
/** Is there a render, done or under way, of the same shot and format that was made of just this? */
export async function hasSame(
  db: Queryable,
  d: Pick<NewDelivery, 'projectId' | 'shotId' | 'colourwayName' | 'preset'>,
  madeOf: object,
): Promise<boolean> {
  const { rowCount } = await db.query(
    `select 1 from delivery d join job j on j.id = d.job_id
      where d.project_id = $1 and d.shot_id = $2 and d.colourway_name = $3 and d.preset = $4 and ${IS_HANDED_OVER}
        and j.state in ('done', 'queued', 'running') and j.payload - 'deliveryId' - 'fileName' = $5::jsonb limit 1`,
    [d.projectId, d.shotId, d.colourwayName, d.preset, JSON.stringify(madeOf)],
  );
  return rowCount === 1;
}
const SELECT = `select d.id as delivery_id, d.project_id as delivery_project, d.shot_id, d.shot_name,
  d.colourway_name, d.preset, d.file_name, d.bytes, d.read_back, d.placed,
  j.id, j.project_id, j.kind, j.subject, j.title, j.state, j.done, j.total, j.message, j.created_at,
    j.started_at, j.finished_at, j.revision
  from delivery d join job j on j.id = d.job_id`;
type Row = Parameters<typeof toJob>[0] & {
  delivery_id: string;
  delivery_project: string;
  shot_id: string | null;
  shot_name: string;
  colourway_name: string;
  preset: string;
  file_name: string;
  bytes: string | null;
  read_back: unknown;
  placed: string | null;
};
const toDelivery = (row: Row): Delivery =>
  Delivery.parse({
    id: row.delivery_id,
    projectId: row.delivery_project,
    shotId: row.shot_id,
    shotName: row.shot_name,
    colourwayName: row.colourway_name,
    preset: row.preset,
    fileName: row.file_name,
    bytes: row.bytes === null ? null : Number(row.bytes),
    readBack: row.read_back,
    placed: row.placed,
    job: toJob(row),
  });
export async function listDeliveries(db: Queryable, projectId: string): Promise<Delivery[]> {
  const { rows } = await db.query<Row>(
    `${SELECT} where d.project_id = $1 and ${IS_HANDED_OVER} order by d.created_at desc, d.id`,
    [projectId],
  );
  return rows.map(toDelivery);
}
export async function findDelivery(db: Queryable, id: string): Promise<Delivery | undefined> {
  const { rows } = await db.query<Row>(`${SELECT} where d.id = $1`, [id]);
  return rows[0] && toDelivery(rows[0]);
}
/** What came of a render, and where it lies. */
type Delivered = Pick<Delivery, 'readBack' | 'placed'> & { bytes: number };
export async function setDelivered(db: Queryable, id: string, { bytes, readBack, placed }: Delivered): Promise<void> {
  const found = readBack && JSON.stringify(readBack);
  const text = 'update delivery set bytes = $2, read_back = $3, placed = $4 where id = $1';
  await db.query(text, [id, bytes, found, placed]);
}
