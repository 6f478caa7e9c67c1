// How far each piece is, in a word: the state of its worst sighting.
import type { PieceId, ProjectDocument, SightingMeasurements } from '@mellow/contract';
import { judge, type Judgement } from '@mellow/core';
import { afterOf, deltaEOf, measuredOf, meanHex, requiredHex, toleranceOf } from '../ui/colour.ts';

/** `none`: isolated nowhere; `waiting`: not measured, or not as it is now; `free`: nothing is required of it. */
export type PieceState = Judgement | 'none' | 'waiting' | 'free';
export interface PieceLook {
  /** Its colour as filmed, and as it is required; hex, null where not known. */
  from: string | null;
  to: string | null;
  state: PieceState;
  /** Shots in which it is isolated, and how many of them match. */
  shots: number;
  matching: number;
}
const WORST_FIRST: readonly PieceState[] = ['off', 'close', 'waiting', 'free', 'matches'];

export function pieceLook(
  document: ProjectDocument,
  measurements: readonly SightingMeasurements[],
  colourwayId: string | undefined,
  pieceId: PieceId,
): PieceLook {
  const requirement = document.requirements.find(
    (r) => r.value.pieceId === pieceId && r.value.colourwayId === colourwayId,
  )?.value;
  const tolerance = toleranceOf(requirement, document.project.value.tolerance);
  const sighted = document.sightings
    .map((s) => s.value)
    .filter((s) => s.pieceId === pieceId && s.layers.length > 0)
    .map((s) => ({ shotId: s.shotId, measured: measuredOf(measurements, s.id, colourwayId) }));
  const states = sighted.map(({ shotId, measured }): PieceState => {
    if (!requirement) return 'free';
    const shot = document.shots.find((s) => s.value.id === shotId)?.value;
    const deltaE = measured?.fresh ? deltaEOf(afterOf(measured, requirement), requirement, shot) : undefined;
    return deltaE === undefined ? 'waiting' : judge(deltaE, tolerance);
  });
  const measured = sighted.find((s) => s.measured)?.measured;
  return {
    from: meanHex(measured?.frames.map((f) => f.before) ?? []),
    to: requiredHex(requirement),
    state: WORST_FIRST.find((state) => states.includes(state)) ?? 'none',
    shots: states.length,
    matching: states.filter((state) => state === 'matches').length,
  };
}
