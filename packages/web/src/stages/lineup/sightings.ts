// What the line-up shows of each piece in each shot.
import type { Piece, ProjectDocument, Requirement, Shot, Sighting, SightingMeasurements } from '@mellow/contract';
import { hexFromLab, shotColour, spread, type Lab } from '@mellow/core';
import { afterOf, comparedWith, deltaEOf, measuredOf, requiredLab } from '../../ui/colour.ts';

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
  const requirement = document.requirements.find(
    (r) => r.value.pieceId === piece.id && r.value.colourwayId === colourwayId,
  )?.value;
  const colours = sightings.flatMap(
    (s) => shotColour(afterOf(s.measured, requirement) ?? [], s.shot.light?.matrix) ?? [],
  );
  return { piece, requirement, sightings, spread: colours.length > 1 ? spread(colours) : undefined };
}

/** A piece with its parts, which the line-up shows as one. */
export interface WholeRow extends PieceRow {
  parts: PieceRow[];
}
/** A row for each piece that is no part of another. */
export function wholeRows(
  document: ProjectDocument,
  measurements: readonly SightingMeasurements[],
  colourwayId: string | undefined,
): WholeRow[] {
  const pieces = document.pieces.map((p) => p.value);
  const rowOf = (piece: Piece) => pieceRow(document, measurements, colourwayId, piece);
  const isWhole = (piece: Piece) => !pieces.some((p) => p.id === piece.partOf);
  return pieces.filter(isWhole).map((piece) => ({
    ...rowOf(piece),
    parts: pieces.filter((p) => p.partOf === piece.id).map(rowOf),
  }));
}
/** A piece and its parts in one shot, those that are isolated there; the one that is farthest off first. */
export function membersIn(
  row: WholeRow,
  column: number,
): { row: PieceRow; sighted: Sighted; deltaE: number | undefined }[] {
  return [row, ...row.parts]
    .map((each) => {
      const sighted = each.sightings[column]!;
      return {
        row: each,
        sighted,
        deltaE: deltaEOf(afterOf(sighted.measured, each.requirement), each.requirement, sighted.shot),
      };
    })
    .filter(({ sighted }) => (sighted.sighting?.layers.length ?? 0) > 0)
    .sort((a, b) => (b.deltaE ?? -1) - (a.deltaE ?? -1));
}

/** ΔE00 to the requirement, frame by frame: a row for each frame, a number for each shot that has it, by its id. */
export function deltaERows({ sightings, requirement }: PieceRow): Record<string, number>[] {
  if (!requirement) return [];
  const rows = new Map<number, Record<string, number>>();
  for (const { shot, measured } of sightings)
    for (const { frame, after } of measured?.frames ?? []) {
      const row = rows.get(frame) ?? { frame };
      rows.set(frame, { ...row, [shot.id]: deltaEOf([comparedWith(requirement, after)], requirement, shot)! });
    }
  return [...rows.values()].sort((a, b) => a.frame! - b.frame!);
}

interface MapPoint {
  name: string;
  a: number;
  b: number;
  colour: string;
  isRequired: boolean;
}
/** Measured colours in the reference light and required ones, over CIELAB's a* and b*. */
export const mapPoints = (rows: readonly PieceRow[]): MapPoint[] =>
  rows.flatMap(({ piece, requirement, sightings }) => {
    const point = (name: string, lab: Lab, isRequired: boolean): MapPoint => ({
      name,
      a: lab.a,
      b: lab.b,
      colour: hexFromLab(lab),
      isRequired,
    });
    const measured = sightings.flatMap(({ shot, measured: m }) => {
      const lab = shotColour(afterOf(m, requirement) ?? [], shot.light?.matrix);
      return lab ? [point(`${piece.name}, ${shot.name}`, lab, false)] : [];
    });
    return requirement ? [...measured, point(`${piece.name}, required`, requiredLab(requirement), true)] : measured;
  });
