import type { ProjectDocument, RunResult, Track } from '@mellow/contract';
import { knownMotions, type Motions } from '@mellow/core';
import { listRuns } from '../db/trackRuns.ts';
import type { Queryable } from '../db/pool.ts';

/** Tracks with what their runs found, as followers see them. */
export function motionsFrom(tracks: readonly Track[], runs: readonly RunResult[]): Motions {
  const found = new Map(runs.map((r) => [r.runId, r.frames]));
  return new Map(tracks.map((track) => [track.id, knownMotions(track, (id) => found.get(id) ?? [])]));
}
export async function motionsOfShot(
  db: Queryable,
  document: Pick<ProjectDocument, 'tracks'>,
  shotId: string,
): Promise<Motions> {
  const tracks = document.tracks.map((t) => t.value).filter((t) => t.shotId === shotId);
  return motionsFrom(
    tracks,
    await listRuns(
      db,
      tracks.flatMap((t) => t.runs.map((r) => r.id)),
    ),
  );
}
