import { randomUUID } from 'node:crypto';
import { carriedRunIds, type ProjectId } from '@mellow/contract';
import * as entities from './entities.ts';
import type { Queryable } from './pool.ts';
import { PARTS, renamed } from './projectParts.ts';
import { projectDocument } from './projects.ts';

/** What makes the pieces of a project: what they are, in which colourways, and the colours that they must have. */
const PIECE_PARTS = ['pieces', 'colourways', 'requirements'] as const satisfies readonly (typeof PARTS)[number][];

/**
 * Gives a project that has none the pieces, colourways and requirements of another. Run it inside a transaction. Throws
 * NotFound.
 */
export async function insertPiecesOf(db: Queryable, from: ProjectId, projectId: ProjectId): Promise<void> {
  const document = await projectDocument(db, from);
  const own = PIECE_PARTS.flatMap((kind) => document[kind].map((row) => row.value.id));
  const names = new Map<string, string>(own.map((id) => [id, randomUUID()]));
  names.set(from, projectId);
  for (const kind of PIECE_PARTS)
    for (const { value } of document[kind]) {
      const copy = renamed(value, names);
      // the shot that a colour was taken from stays with the other project
      const free = 'asInShotId' in copy ? { ...copy, asInShotId: null } : copy;
      await entities[kind].insert(db, free as never, 1);
    }
}

/**
 * Makes a project with all that another is made of, as it stands now: footage is shared, the history begins anew, and
 * renders stay with the first. Run it inside a transaction. Throws NotFound.
 */
export async function duplicateProject(db: Queryable, projectId: string): Promise<ProjectId> {
  const document = await projectDocument(db, projectId);
  const runs = document.tracks.flatMap((t) => t.value.runs.map((run) => run.id));
  const carries = [
    ...document.sightings.flatMap((s) => carriedRunIds(s.value.layers)),
    ...document.stills.flatMap((s) => s.value.renders.flatMap((r) => carriedRunIds(r.layers))),
  ];
  const own = PARTS.flatMap((kind) => document[kind].map((row) => row.value.id));
  const names = new Map<string, string>([projectId, ...own, ...runs, ...carries].map((id) => [id, randomUUID()]));
  const project = renamed(document.project.value, names);
  await entities.projects.insert(db, { ...project, name: `${project.name} copy`.slice(0, 120) }, 1);
  for (const run of runs) {
    await db.query(
      `insert into track_run (id, project_id, stopped_frame, stopped_reason)
        select $2, $3, stopped_frame, stopped_reason from track_run where id = $1`,
      [run, names.get(run), project.id],
    );
    await db.query(
      `insert into track_frame (run_id, frame, motion, confidence, flex)
        select $2, frame, motion, confidence, flex from track_frame where run_id = $1`,
      [run, names.get(run)],
    );
  }
  for (const run of new Set(carries)) {
    await db.query(
      `insert into carry_run (id, project_id, is_backward, certainties)
        select $2, $3, is_backward, certainties from carry_run where id = $1`,
      [run, names.get(run), project.id],
    );
    await db.query(
      `insert into carried_frame (run_id, frame, mask) select $2, frame, mask from carried_frame where run_id = $1`,
      [run, names.get(run)],
    );
  }
  for (const kind of PARTS)
    for (const { value } of document[kind]) await entities[kind].insert(db, renamed(value, names) as never, 1);
  return project.id;
}
