import type { Certainties } from '@mellow/contract';
import type { CarriedFrom } from '@mellow/core';
import { list, type Listing } from './listing.ts';
import type { Queryable } from './pool.ts';

/** A mask found on a frame; `mask` as core's bytesOfMask gives it. */
export interface StoredCarried {
  frame: number;
  mask: Uint8Array;
  /** 0..1; 0 where the piece is out of sight. */
  certainty: number;
}

export async function insertCarryRun(
  db: Queryable,
  { id, projectId, isBackward }: { id: string; projectId: string; isBackward: boolean },
): Promise<void> {
  await db.query('insert into carry_run (id, project_id, is_backward) values ($1, $2, $3)', [
    id,
    projectId,
    isBackward,
  ]);
}
/** Stores the next frame of a pass, in the order it goes; one that is there already stays as it is. */
export async function saveCarried(
  db: Queryable,
  runId: string,
  { frame, mask, certainty }: StoredCarried,
): Promise<void> {
  await db.query(
    `with stored as (
        insert into carried_frame (run_id, frame, mask) values ($1, $2, $3)
          on conflict (run_id, frame) do nothing returning 1
      )
      update carry_run set certainties = certainties || $4::real where id = $1 and exists (select from stored)`,
    [runId, frame, Buffer.from(mask), certainty],
  );
}

/** The mask of a frame of a project's pass; undefined where it has not been found. */
export async function findCarried(
  db: Queryable,
  projectId: string,
  runId: string,
  frame: number,
): Promise<Uint8Array | undefined> {
  const { rows } = await db.query<{ mask: Buffer }>(
    `select f.mask from carried_frame f join carry_run r on r.id = f.run_id
      where f.run_id = $1 and f.frame = $2 and r.project_id = $3`,
    [runId, frame, projectId],
  );
  return rows[0]?.mask;
}

/** The masks of frames of several passes; those that are not there are left out. */
export async function listCarriedMasks(
  db: Queryable,
  from: readonly CarriedFrom[],
): Promise<{ runId: string; frame: number; mask: Uint8Array }[]> {
  if (from.length === 0) return [];
  const { rows } = await db.query<{ run_id: string; frame: number; mask: Buffer }>(
    `select f.run_id, f.frame, f.mask from carried_frame f
      join unnest($1::uuid[], $2::integer[]) as wanted (run_id, frame) using (run_id, frame)`,
    [from.map((f) => f.runId), from.map((f) => f.frame)],
  );
  return rows.map((r) => ({ runId: r.run_id, frame: r.frame, mask: r.mask }));
}

/** All that a pass has found, in the order it went; undefined where there is no such pass. */
export async function findCarryRun(
  db: Queryable,
  runId: string,
): Promise<{ isBackward: boolean; frames: StoredCarried[] } | undefined> {
  const { rows: runs } = await db.query<{ is_backward: boolean; certainties: number[] }>(
    'select is_backward, certainties from carry_run where id = $1',
    [runId],
  );
  const run = runs[0];
  if (!run) return undefined;
  const { rows } = await db.query<{ frame: number; mask: Buffer }>(
    `select frame, mask from carried_frame where run_id = $1 order by frame ${run.is_backward ? 'desc' : 'asc'}`,
    [runId],
  );
  return { isBackward: run.is_backward, frames: rows.map((r, k) => ({ ...r, certainty: run.certainties[k]! })) };
}

/** How sure each frame of the passes of a project ($1) is, in the order they go. */
export const CERTAINTIES: Listing<[string, Certainties]> = {
  text: 'select id, certainties from carry_run where project_id = $1',
  toValue: ({ id, certainties }) => [id as string, certainties as Certainties],
};
export const listCertainties = async (db: Queryable, projectId: string): Promise<Record<string, Certainties>> =>
  Object.fromEntries(await list(db, CERTAINTIES, [projectId]));
