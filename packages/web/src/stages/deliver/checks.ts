// What a careful hand looks at before rendering.
import type { Piece, ProjectDocument, Requirement, Shot, Sighting, SightingMeasurements } from '@mellow/contract';
import { isLowCoverage, isMuchClipped, judge, shotTrust } from '@mellow/core';
import { afterOf, deltaEOf, GLYPH, measuredOf, toleranceOf } from '../../ui/colour.ts';

const percent = (share: number): string => `${Math.round(share * 100)} %`;

/** What is found, and how much it matters: off by more than twice the tolerance, near it, or doubtful. */
export interface Check {
  mark: '✕' | '≈' | '⚠';
  text: string;
}
const doubtful = (text: string): Check => ({ mark: '⚠', text });
interface Delivered {
  shot: Shot;
  piece: Piece;
  requirement: Requirement | undefined;
  measured: SightingMeasurements | undefined;
  projectTolerance: number;
}
function matteChecks({ shot, piece, measured }: Delivered): Check[] {
  if (!measured?.fresh) return [doubtful(`${shot.name}: the ${piece.name} is still being measured.`)];
  const empty = measured.measuredFrames - measured.frames.length;
  const frames = empty === 1 ? '1 frame' : `${empty} frames`;
  return empty > 0 ? [doubtful(`${shot.name}: the matte of the ${piece.name} is empty on ${frames}.`)] : [];
}
function trustChecks({ shot, piece, measured }: Delivered): Check[] {
  const trust = measured && shotTrust(measured.frames);
  if (!trust) return [];
  const covered = percent(trust.coverage);
  return [
    ...(isLowCoverage(trust)
      ? [doubtful(`${shot.name}: only about ${covered} of what looks like the ${piece.name} is selected.`)]
      : []),
    ...(isMuchClipped(trust)
      ? [
          doubtful(
            `${shot.name}: the recolour clips ${percent(trust.clipped)} of the ${piece.name} on its worst frame.`,
          ),
        ]
      : []),
  ];
}
function colourChecks({ shot, piece, requirement, measured, projectTolerance }: Delivered): Check[] {
  const deltaE = deltaEOf(afterOf(measured, requirement), requirement, shot);
  const tolerance = toleranceOf(requirement, projectTolerance);
  if (deltaE === undefined || deltaE <= tolerance) return [];
  const by = `ΔE00 ${deltaE.toFixed(2)} from ${requirement!.name} (tolerance ${tolerance})`;
  const mark = GLYPH[judge(deltaE, tolerance)] as Check['mark'];
  return [{ mark, text: `${shot.name}: the ${piece.name} is ${by}.` }];
}

/** Everything that should be mended, or known, before these shots are rendered. */
export function checksBefore(
  document: ProjectDocument,
  measurements: readonly SightingMeasurements[],
  colourwayId: string | undefined,
  shotIds: readonly string[],
): Check[] {
  const ofSighting = (shot: Shot, sighting: Sighting): Check[] => {
    const piece = document.pieces.find((p) => p.value.id === sighting.pieceId)?.value;
    if (!piece) return [];
    const requirement = document.requirements.find(
      (r) => r.value.pieceId === piece.id && r.value.colourwayId === colourwayId,
    )?.value;
    const measured = measuredOf(measurements, sighting.id, colourwayId);
    const delivered = { shot, piece, requirement, measured, projectTolerance: document.project.value.tolerance };
    return [...matteChecks(delivered), ...trustChecks(delivered), ...colourChecks(delivered)];
  };
  const chosen = document.shots.map((s) => s.value).filter((s) => shotIds.includes(s.id));
  return chosen.flatMap((shot) => {
    const here = document.sightings.map((s) => s.value).filter((s) => s.shotId === shot.id && s.layers.length > 0);
    if (here.length === 0) return [doubtful(`${shot.name}: no piece is isolated; it will be rendered unchanged.`)];
    return here.flatMap((sighting) => ofSighting(shot, sighting));
  });
}
