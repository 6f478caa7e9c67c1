// What projects take on the disk of the media folder, as far as the database knows it.
import type { ProjectId, ProjectSpace, ProjectState } from '@mellow/contract';
import type { Queryable } from './pool.ts';

/** Footage that a project has or has had, each file once, however many ways it is read in. */
const FOOTAGE_OF_P = `(select coalesce(sum(bytes), 0) from (select distinct on (sha256) bytes from media m
  where exists (select 1 from project_media pm join media o on o.id = pm.media_id
    where pm.project_id = p.id and o.sha256 = m.sha256)) files)`;
const FRAMES_OF_P = `(select coalesce(sum(m.frame_bytes), 0) from media m
  where exists (select 1 from project_media pm where pm.project_id = p.id and pm.media_id = m.id))`;

/** The largest first. `personId`: only those in which somebody has a role; null: all. */
export async function listProjectSpace(db: Queryable, personId: string | null): Promise<ProjectSpace[]> {
  const { rows } = await db.query<{
    id: ProjectId;
    name: string;
    state: ProjectState;
    removed_at: Date | null;
    footage: string;
    frames: string;
    renders: string;
  }>(
    `select p.id, p.name, p.state, p.removed_at, ${FOOTAGE_OF_P} as footage, ${FRAMES_OF_P} as frames,
       (select coalesce(sum(bytes), 0) from delivery d where d.project_id = p.id) as renders
     from project p
     where $1::uuid is null or exists (select 1 from membership where project_id = p.id and person_id = $1)`,
    [personId],
  );
  return rows
    .map((row) => ({
      id: row.id,
      name: row.name,
      state: row.state,
      removedAt: row.removed_at?.toISOString() ?? null,
      footageBytes: Number(row.footage),
      frameBytes: Number(row.frames),
      renderBytes: Number(row.renders),
    }))
    .sort((a, b) => allOf(b) - allOf(a) || a.name.localeCompare(b.name));
}
const allOf = (space: Pick<ProjectSpace, 'footageBytes' | 'frameBytes' | 'renderBytes'>): number =>
  space.footageBytes + space.frameBytes + space.renderBytes;

/** Bytes of the footage that a project has or has had. */
export async function footageBytesOf(db: Queryable, projectId: string): Promise<number> {
  const { rows } = await db.query<{ bytes: string }>(`select ${FOOTAGE_OF_P} as bytes from project p where id = $1`, [
    projectId,
  ]);
  return Number(rows[0]?.bytes ?? 0);
}
/** Bytes of footage that no project has had, or has any more. */
export async function unusedBytes(db: Queryable): Promise<number> {
  const { rows } = await db.query<{ bytes: string }>(
    `select coalesce(sum(bytes), 0) + coalesce(sum(frame_bytes), 0) as bytes from media m
      where not ${isOfAProject('m')}`,
  );
  return Number(rows[0]!.bytes);
}
/** Is any reading of the same files of a project that there is? */
export const isOfAProject = (media: string): string =>
  `exists (select 1 from project_media pm join media o on o.id = pm.media_id where o.sha256 = ${media}.sha256)`;
