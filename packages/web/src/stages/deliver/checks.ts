// What a careful hand looks at before rendering.
import {
  lookOfShot,
  type Colourway,
  type FootageFault,
  type Note,
  type Piece,
  type ProjectDocument,
  type Requirement,
  type Shot,
  type Sighting,
  type SightingMeasurements,
  type StandingVerdict,
} from '@mellow/contract';
import { drift, isLowCoverage, isMuchClipped, judge, platesOf, shotTrust } from '@mellow/core';
import { isLookOn } from '../../commands/looks.ts';
import { openNotes, verdictOf } from '../../inhand/reviewed.ts';
import { afterOf, deltaEOf, GLYPH, measuredOf, toleranceOf } from '../../ui/colour.ts';

const percent = (share: number): string => `${Math.round(share * 100)} %`;

/** What is found, and how much it matters: off by more than twice the tolerance, near it, or doubtful. */
export interface Check {
  mark: '✕' | '≈' | '⚠';
  /** Its state in a word. */
  word:
    | 'off'
    | 'close'
    | 'drifts'
    | 'not measured'
    | 'empty'
    | 'thin'
    | 'clipped'
    | 'unchanged'
    | 'look'
    | 'missing'
    | 'changed'
    | 'sent back'
    | 'not as approved'
    | 'noted';
  text: string;
  /** Where it is mended. */
  at: { shotId: Shot['id']; pieceId?: Piece['id']; stage: 'shots' | 'isolate' | 'recolour' };
  /** Where it is of one. */
  frame?: number;
}
type Place = Pick<Delivered, 'shot'> & Partial<Pick<Delivered, 'piece'>>;
const doubtful = (word: Check['word'], stage: Check['at']['stage'], { shot, piece }: Place, text: string): Check => ({
  mark: '⚠',
  word,
  text: `${shot.name}: ${text}`,
  at: { shotId: shot.id, ...(piece && { pieceId: piece.id }), stage },
});
interface Delivered {
  shot: Shot;
  piece: Piece;
  requirement: Requirement | undefined;
  measured: SightingMeasurements | undefined;
  projectTolerance: number;
  verdict: StandingVerdict | undefined;
}
function matteChecks(delivered: Delivered): Check[] {
  const { piece, measured } = delivered;
  if (!measured?.fresh)
    return [doubtful('not measured', 'recolour', delivered, `the ${piece.name} is still being measured.`)];
  const empty = measured.measuredFrames - measured.frames.length;
  const frames = empty === 1 ? '1 frame' : `${empty} frames`;
  const text = `the matte of the ${piece.name} is empty on ${frames}.`;
  return empty > 0 ? [doubtful('empty', 'isolate', delivered, text)] : [];
}
function trustChecks(delivered: Delivered): Check[] {
  const { piece, measured } = delivered;
  const trust = measured && shotTrust(measured.frames);
  if (!trust) return [];
  const thin = `only about ${percent(trust.coverage)} of what looks like the ${piece.name} is selected.`;
  const clipped = `the recolour clips ${percent(trust.clipped)} of the ${piece.name} on its worst frame.`;
  return [
    ...(isLowCoverage(trust) ? [doubtful('thin', 'isolate', delivered, thin)] : []),
    ...(isMuchClipped(trust) ? [doubtful('clipped', 'recolour', delivered, clipped)] : []),
  ];
}
const WORD = { off: 'off', close: 'close' } as const;
function colourChecks({ shot, piece, requirement, measured, projectTolerance }: Delivered): Check[] {
  const deltaE = deltaEOf(afterOf(measured, requirement), requirement, shot);
  const tolerance = toleranceOf(requirement, projectTolerance);
  const judged = deltaE === undefined ? 'matches' : judge(deltaE, tolerance);
  if (deltaE === undefined || judged === 'matches') return [];
  const by = `ΔE00 ${deltaE.toFixed(2)} from ${requirement!.name} (tolerance ${tolerance})`;
  const text = `${shot.name}: the ${piece.name} is ${by}.`;
  return [
    { mark: GLYPH[judged], word: WORD[judged], text, at: { shotId: shot.id, pieceId: piece.id, stage: 'recolour' } },
  ];
}

/** A piece whose colour wanders through the shot by more than it may be off. */
function driftChecks(delivered: Delivered): Check[] {
  const { piece, requirement, measured, projectTolerance } = delivered;
  const by = drift(afterOf(measured, requirement) ?? []);
  if (by <= toleranceOf(requirement, projectTolerance)) return [];
  const text = `the colour of the ${piece.name} drifts by ΔE00 ${by.toFixed(2)} through the shot.`;
  return [doubtful('drifts', 'recolour', delivered, text)];
}
/** What was said by who decides: sent back and not touched since, or approved and touched since. */
function verdictChecks(delivered: Delivered): Check[] {
  const { shot, piece, verdict } = delivered;
  if (!verdict || (verdict.decision === 'approved') === verdict.holds) return [];
  if (verdict.decision === 'approved')
    return [doubtful('not as approved', 'recolour', delivered, `the ${piece.name} has changed since it was approved.`)];
  const why = verdict.text ? `: “${verdict.text}”` : '.';
  const text = `${shot.name}: the ${piece.name} was sent back by ${verdict.who}${why}`;
  return [{ mark: '✕', word: 'sent back', text, at: { shotId: shot.id, pieceId: piece.id, stage: 'recolour' } }];
}
function noteChecks(shot: Shot, notes: readonly Note[]): Check[] {
  return notes.map(({ frame, who, text }) => ({
    ...doubtful('noted', 'recolour', { shot }, `frame ${frame}, ${who}: “${text}”`),
    frame,
  }));
}
/** What was judged is not what is written. */
function lookChecks(document: ProjectDocument, chosen: readonly Shot[], withLook: boolean): Check[] {
  const seen = chosen.filter((shot) => lookOfShot(document.project.value, shot));
  const [first] = seen;
  if (!first || isLookOn(document) === withLook) return [];
  const text = withLook
    ? 'judged without the look, rendered through it.'
    : 'judged through the look, rendered without it.';
  const whose = seen.length === chosen.length ? 'All shots' : seen.map((shot) => shot.name).join(', ');
  return [{ ...doubtful('look', 'recolour', { shot: first }, ''), text: `${whose}: ${text}` }];
}

/** Footage that would not be rendered as it was judged, of the shot itself or of a plate in it. */
function footageChecks(document: ProjectDocument, shot: Shot, faults: readonly FootageFault[]): Check[] {
  const plates = document.sightings
    .filter(({ value }) => value.shotId === shot.id)
    .flatMap(({ value }) => platesOf(value.layers).map((plate) => plate.mediaId));
  return faults
    .filter(({ mediaId }) => mediaId === shot.mediaId || plates.includes(mediaId))
    .map(({ name, fault, file }) => ({
      ...doubtful(
        fault,
        'shots',
        { shot },
        fault === 'missing'
          ? `“${file}” of its footage “${name}” is missing.`
          : `its footage “${name}” is no longer what was brought in.`,
      ),
      mark: '✕',
    }));
}

/**
 * `checksBefore` in each of several colourways: what is true of all is said once, what is not with the colourway's
 * name.
 */
export function checksInAll(
  document: ProjectDocument,
  measurements: readonly SightingMeasurements[],
  colourways: readonly Pick<Colourway, 'id' | 'name'>[],
  shotIds: readonly string[],
  options: Options = {},
): Check[] {
  const each = colourways.map(({ id, name }) => ({
    name,
    checks: checksBefore(document, measurements, id, shotIds, options),
  }));
  const inAll = (check: Check) => each.every(({ checks }) => checks.some((c) => c.text === check.text));
  const [first] = each;
  const said = first?.checks.filter(inAll) ?? [];
  const apart = each.flatMap(({ name, checks }) =>
    checks.filter((check) => !inAll(check)).map((check) => ({ ...check, text: `${name}, ${check.text}` })),
  );
  return [...said, ...apart];
}

interface Options {
  withLook?: boolean;
  faults?: readonly FootageFault[];
  verdicts?: readonly StandingVerdict[];
  notes?: readonly Note[];
}
/** Everything that should be mended, or known, before these shots are rendered. */
export function checksBefore(
  document: ProjectDocument,
  measurements: readonly SightingMeasurements[],
  colourwayId: string | undefined,
  shotIds: readonly string[],
  { withLook = false, faults = [], verdicts = [], notes = [] }: Options = {},
): Check[] {
  const ofSighting = (shot: Shot, sighting: Sighting): Check[] => {
    const piece = document.pieces.find((p) => p.value.id === sighting.pieceId)?.value;
    if (!piece) return [];
    const requirement = document.requirements.find(
      (r) => r.value.pieceId === piece.id && r.value.colourwayId === colourwayId,
    )?.value;
    const measured = measuredOf(measurements, sighting.id, colourwayId);
    const verdict = verdictOf(verdicts, sighting.id, colourwayId);
    const { tolerance: projectTolerance } = document.project.value;
    const delivered = { shot, piece, requirement, measured, projectTolerance, verdict };
    return [matteChecks, trustChecks, colourChecks, driftChecks, verdictChecks].flatMap((check) => check(delivered));
  };
  const chosen = document.shots.map((s) => s.value).filter((s) => shotIds.includes(s.id));
  const ofAll = lookChecks(document, chosen, withLook);
  const ofEach = chosen.flatMap((shot) => {
    const here = document.sightings.map((s) => s.value).filter((s) => s.shotId === shot.id && s.layers.length > 0);
    const footage = [
      ...footageChecks(document, shot, faults),
      ...noteChecks(shot, openNotes(notes, shot.id, colourwayId)),
    ];
    const untouched = 'no piece is isolated; it will be rendered unchanged.';
    if (here.length === 0) return [...footage, doubtful('unchanged', 'isolate', { shot }, untouched)];
    return [...footage, ...here.flatMap((sighting) => ofSighting(shot, sighting))];
  });
  return [...ofAll, ...ofEach];
}
