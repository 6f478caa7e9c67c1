import type { FrameMeasurement, SightingMeasurements } from '@mellow/contract';
import { FrameMeasurement as Schema } from '@mellow/contract';
import type { Queryable } from './pool.ts';

/** Replaces what is known of a sighting in a colourway. `inputs` is the hash of all that the numbers depend on. */
export async function saveMeasurements(
  db: Queryable,
  sightingId: string,
  colourwayId: string,
  inputs: string,
  frames: FrameMeasurement[],
  measuredFrames: number,
): Promise<void> {
  await db.query(
    `insert into measurement (sighting_id, colourway_id, inputs, frames, measured_frames) values ($1, $2, $3, $4, $5)
     on conflict (sighting_id, colourway_id) do update
       set inputs = excluded.inputs, frames = excluded.frames, measured_frames = excluded.measured_frames`,
    [sightingId, colourwayId, inputs, JSON.stringify(frames), measuredFrames],
  );
}

export async function listMeasurements(
  db: Queryable,
  projectId: string,
  inputsOf: (sightingId: string, colourwayId: string) => string | undefined,
): Promise<SightingMeasurements[]> {
  const { rows } = await db.query<{
    sighting_id: string;
    colourway_id: string;
    inputs: string;
    frames: unknown;
    measured_frames: number;
  }>(
    `select sighting_id, colourway_id, inputs, frames, measured_frames from measurement
      where sighting_id in (select id from sighting where project_id = $1)`,
    [projectId],
  );
  return rows.map((row) => ({
    sightingId: row.sighting_id as SightingMeasurements['sightingId'],
    colourwayId: row.colourway_id as SightingMeasurements['colourwayId'],
    fresh: row.inputs === inputsOf(row.sighting_id, row.colourway_id),
    measuredFrames: row.measured_frames,
    frames: Schema.array()
      .parse(row.frames)
      .map(({ frame, before, after, coverage }) => ({
        frame,
        before: { lab: before.lab, meanLinear: before.meanLinear },
        after: { lab: after.lab, meanLinear: after.meanLinear, ...(after.body && { body: after.body }) },
        pixels: before.pixels,
        coverage,
        clippedShare: before.clippedShare,
        resultClippedShare: after.clippedShare,
      })),
  }));
}
/** What a sighting's measurement in a colourway is called. */
export const measured = (sightingId: string, colourwayId: string): string => `${sightingId} ${colourwayId}`;
/** The hash of what each measurement of a project was made of, by `measured`. */
export async function storedInputs(db: Queryable, projectId: string): Promise<Map<string, string>> {
  const { rows } = await db.query<{ sightingId: string; colourwayId: string; inputs: string }>(
    `select sighting_id as "sightingId", colourway_id as "colourwayId", inputs from measurement
      where sighting_id in (select id from sighting where project_id = $1)`,
    [projectId],
  );
  return new Map(rows.map((row) => [measured(row.sightingId, row.colourwayId), row.inputs]));
}
