// What the line-up shows of each piece in each shot.
import type { Piece, ProjectDocument, Requirement, Shot, Sighting, SightingMeasurements } from '@mellow/contract';
import { ciede2000, shotColour, spread } from '@mellow/core';
import { afterOf, measuredOf, requiredLab } from '../../ui/colour.ts';

export interface Sighted {
  shot: Shot;
  sighting: Sighting | undefined;
  measured: SightingMeasurements | undefined;
}
export interface PieceRow {
  piece: Piece;
  requirement: Requirement | undefined;
  sightings: Sighted[];
  /** Largest ΔE00 between two sightings; undefined with fewer than two. */
  spread: number | undefined;
}

export function pieceRow(
  document: ProjectDocument,
  measurements: readonly SightingMeasurements[],
  colourwayId: string | undefined,
  piece: Piece,
): PieceRow {
  const sightings = document.shots.map(({ value: shot }): Sighted => {
    const sighting = document.sightings.find((s) => s.value.pieceId === piece.id && s.value.shotId === shot.id)?.value;
    return { shot, sighting, measured: measuredOf(measurements, sighting?.id, colourwayId) };
  });
  const colours = sightings.flatMap((s) => shotColour(afterOf(s.measured) ?? []) ?? []);
  const requirement = document.requirements.find(
    (r) => r.value.pieceId === piece.id && r.value.colourwayId === colourwayId,
  )?.value;
  return { piece, requirement, sightings, spread: colours.length > 1 ? spread(colours) : undefined };
}

/** ΔE00 to the requirement, frame by frame: a row for each frame, a number for each shot that has it, by its id. */
export function deltaERows({ sightings, requirement }: PieceRow): Record<string, number>[] {
  if (!requirement) return [];
  const rows = new Map<number, Record<string, number>>();
  for (const { shot, measured } of sightings)
    for (const { frame, after } of measured?.frames ?? []) {
      const row = rows.get(frame) ?? { frame };
      rows.set(frame, { ...row, [shot.id]: ciede2000(after.lab, requiredLab(requirement)) });
    }
  return [...rows.values()].sort((a, b) => a.frame! - b.frame!);
}
