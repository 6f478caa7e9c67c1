// Continuity: the colour a piece has in a shot as it was filmed, as a requirement for the others.
import type { ProjectDocument, Shot, SightingMeasurements } from '@mellow/contract';
import { shotColour, type Lab } from '@mellow/core';

export interface Filmed {
  shot: Shot;
  /** Mean over the shot's measured frames of the source, in the reference light (D65). */
  lab: Lab;
}

/** The shots in which a piece has been measured, each with its colour in the source. */
export function filmedColours(
  document: Pick<ProjectDocument, 'shots' | 'sightings'>,
  measurements: readonly SightingMeasurements[],
  pieceId: string | undefined,
): Filmed[] {
  return document.shots.flatMap(({ value: shot }) => {
    const sighting = document.sightings.find((s) => s.value.pieceId === pieceId && s.value.shotId === shot.id)?.value;
    const measured = measurements.find((m) => m.sightingId === sighting?.id && m.frames.length > 0);
    const lab =
      measured &&
      shotColour(
        measured.frames.map((f) => f.before),
        shot.light?.matrix,
      );
    return lab ? [{ shot, lab }] : [];
  });
}
