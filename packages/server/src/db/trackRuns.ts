import { RunResult, type LossReason, type TrackedFrame } from '@mellow/contract';
import type { Listing } from './listing.ts';
import type { Queryable } from './pool.ts';

export async function insertRun(db: Queryable, id: string, projectId: string): Promise<void> {
  await db.query('insert into track_run (id, project_id) values ($1, $2)', [id, projectId]);
}
/** Stores frames of a run; one found again replaces what was there. */
export async function saveFrames(db: Queryable, runId: string, frames: readonly TrackedFrame[]): Promise<void> {
  for (const { frame, motion, confidence, flex } of frames)
    await db.query(
      `insert into track_frame (run_id, frame, motion, confidence, flex) values ($1, $2, $3, $4, $5)
        on conflict (run_id, frame) do update
        set motion = excluded.motion, confidence = excluded.confidence, flex = excluded.flex`,
      [runId, frame, motion, confidence, flex ?? null],
    );
}
export async function saveStop(
  db: Queryable,
  runId: string,
  stopped: { frame: number; reason: LossReason } | null,
): Promise<void> {
  await db.query('update track_run set stopped_frame = $2, stopped_reason = $3 where id = $1', [
    runId,
    stopped?.frame ?? null,
    stopped?.reason ?? null,
  ]);
}

/** What the listed runs have found, in ascending order of frames. */
export async function listRuns(db: Queryable, runIds: readonly string[]): Promise<RunResult[]> {
  const { rows: runs } = await db.query<{ id: string; stopped_frame: number | null; stopped_reason: string | null }>(
    'select id, stopped_frame, stopped_reason from track_run where id = any($1::uuid[])',
    [runIds],
  );
  const { rows: frames } = await db.query<{
    run_id: string;
    frame: number;
    motion: number[];
    confidence: number;
    flex: number[] | null;
  }>(
    `select run_id, frame, motion, confidence, flex from track_frame where run_id = any($1::uuid[])
      order by run_id, frame`,
    [runIds],
  );
  const byRun = new Map<string, typeof frames>(runs.map((r) => [r.id, []]));
  for (const frame of frames) byRun.get(frame.run_id)?.push(frame);
  return runs.map((run) =>
    RunResult.parse({
      runId: run.id,
      frames: (byRun.get(run.id) ?? []).map(({ frame, motion, confidence, flex }) => ({
        frame,
        motion,
        confidence,
        ...(flex && { flex }),
      })),
      stopped: run.stopped_frame === null ? null : { frame: run.stopped_frame, reason: run.stopped_reason },
    }),
  );
}
/** How many frames each run of a project ($1) has. */
export const TRACKED_FRAMES: Listing<[string, number]> = {
  text: `select r.id, count(f.frame)::int as n from track_run r left join track_frame f on f.run_id = r.id
    where r.project_id = $1 group by r.id`,
  toValue: ({ id, n }) => [id as string, n as number],
};
