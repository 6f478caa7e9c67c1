// The line-up as a table for whoever asks: a row for each piece, in each shot and colourway.
import Papa from 'papaparse';
import type { ProjectDocument, Requirement, SightingMeasurements, StandingVerdict } from '@mellow/contract';
import { drift, judge, measurementText, shotColour, type Lab, type NamedColour } from '@mellow/core';
import { verdictOf, verdictText } from '../../inhand/reviewed.ts';
import { afterOf, deltaEOf, requiredLab, toleranceOf } from '../../ui/colour.ts';
import { pieceRow, type PieceRow, type Sighted } from './sightings.ts';

const rounded = (v: number | undefined, digits: number): string => (v === undefined ? '' : v.toFixed(digits));
const share = (v: number | undefined): string => (v === undefined ? '' : (100 * v).toFixed(1));
const triple = (lab: Lab | undefined) => [lab?.L, lab?.a, lab?.b].map((v) => rounded(v, 2));

/** The columns and what stands in them: Lab under D65, back in the light of the reference shot. */
const COLUMNS = [
  'Colourway',
  'Piece',
  'Shot',
  'Required colour',
  'Required L*',
  'Required a*',
  'Required b*',
  'Required of',
  'Tolerance ΔE00',
  'Measured L*',
  'Measured a*',
  'Measured b*',
  'ΔE00',
  'Stands',
  'Drift ΔE00',
  'Between shots ΔE00',
  'Selected %',
  'Clipped in the source %',
  'Clipped by the recolour %',
  'Frames measured',
  'Up to date',
  'Light',
  'Trimmed',
  'State',
  'Review',
  'Said',
  'On',
] as const;

export interface Place {
  document: ProjectDocument;
  colourway: { id: string; name: string };
  row: PieceRow;
  sighted: Sighted;
}
const meanOf = (values: readonly number[]): number | undefined =>
  values.length > 0 ? values.reduce((a, b) => a + b, 0) / values.length : undefined;

function measuredCells({ document, row, sighted: { shot, measured } }: Place): string[] {
  const { requirement } = row;
  const frames = afterOf(measured, requirement) ?? [];
  const deltaE = deltaEOf(frames, requirement, shot);
  const tolerance = toleranceOf(requirement, document.project.value.tolerance);
  return [
    ...triple(shotColour(frames, shot.light?.matrix)),
    rounded(deltaE, 2),
    deltaE === undefined ? '' : judge(deltaE, tolerance),
    frames.length > 0 ? rounded(drift(frames), 2) : '',
    rounded(row.spread, 2),
    share(meanOf(measured?.frames.map((f) => f.coverage) ?? [])),
    share(meanOf(measured?.frames.map((f) => f.clippedShare) ?? [])),
    share(meanOf(measured?.frames.map((f) => f.resultClippedShare) ?? [])),
    String(frames.length),
    measured?.fresh ? 'yes' : 'no',
  ];
}
const requiredCells = (requirement: Requirement | undefined, projectTolerance: number): string[] => [
  requirement?.name ?? '',
  ...triple(requirement && requiredLab(requirement)),
  requirement?.of ?? '',
  requirement ? rounded(toleranceOf(requirement, projectTolerance), 2) : '',
];

/** Every isolated piece in every shot and colourway, in this order: colourway, piece, shot. */
export function placesOf(document: ProjectDocument, measurements: readonly SightingMeasurements[]): Place[] {
  return document.colourways.flatMap(({ value: colourway }) =>
    document.pieces.flatMap(({ value: piece }) => {
      const row = pieceRow(document, measurements, colourway.id, piece);
      const isolated = row.sightings.filter((s) => (s.sighting?.layers.length ?? 0) > 0);
      return isolated.map((sighted) => ({ document, colourway, row, sighted }));
    }),
  );
}

/** Where the light of a shot is from. */
export const lightText = ({ id, light }: Place['sighted']['shot'], referenceShotId: string | null): string =>
  id === referenceShotId ? 'reference shot' : (light?.how ?? 'as the reference shot');

/** The report as comma-separated values (RFC 4180), with a byte-order mark so that spreadsheets read it as UTF-8. */
export function reportCsv(
  document: ProjectDocument,
  measurements: readonly SightingMeasurements[],
  verdicts: readonly StandingVerdict[],
): string {
  const { referenceShotId, tolerance } = document.project.value;
  const rows = placesOf(document, measurements).map((place) => {
    const { colourway, row, sighted } = place;
    const { shot, sighting } = sighted;
    const trims = (sighting?.trims ?? {}) as Record<string, unknown>;
    const verdict = verdictOf(verdicts, sighting?.id, colourway.id);
    return [
      colourway.name,
      row.piece.name,
      shot.name,
      ...requiredCells(row.requirement, tolerance),
      ...measuredCells(place),
      lightText(shot, referenceShotId),
      trims[colourway.id] ? 'yes' : 'no',
      sighting?.state ?? '',
      verdict ? verdictText(verdict) : '',
      verdict?.text ?? '',
      verdict?.at ?? '',
    ];
  });
  // a name that begins like a formula stays a name in a spreadsheet
  return `\ufeff${Papa.unparse({ fields: [...COLUMNS], data: rows }, { escapeFormulae: true })}\r\n`;
}

/** Required and measured colours of all pieces as CGATS.17 text. */
export function reportCgats(
  document: ProjectDocument,
  measurements: readonly SightingMeasurements[],
  created: string,
): string {
  const colours = placesOf(document, measurements).flatMap(({ colourway, row, sighted: { shot, measured } }) => {
    const { requirement, piece } = row;
    const lab = shotColour(afterOf(measured, requirement) ?? [], shot.light?.matrix);
    return lab ? [{ name: `${piece.name}, ${colourway.name}, ${shot.name}`, lab }] : [];
  });
  const required = document.requirements.flatMap(({ value }): NamedColour[] => {
    const piece = document.pieces.find((p) => p.value.id === value.pieceId)?.value.name;
    const colourway = document.colourways.find((c) => c.value.id === value.colourwayId)?.value.name;
    return piece ? [{ name: `${piece}, ${colourway}, required: ${value.name}`, lab: requiredLab(value) }] : [];
  });
  return measurementText(document.project.value.name, created, [...required, ...colours]);
}
