// The overall correction after all recolours: the project's, and that of shots which have their own.
import {
  lookOfShot,
  type CubeFile,
  type Look,
  type Project,
  type ProjectDocument,
  type ProjectLook,
  type ShotId,
} from '@mellow/contract';
import { isNeutralCdl, isStraight, NEUTRAL_CDL, STRAIGHT_LOOK_CURVES, type Cdl, type LookCurves } from '@mellow/core';
import type { Change } from '../editing/change.ts';
import type { PlainEdit } from '../editing/optimistic.ts';

/** Whose look: a shot's own, or the project's. */
export type Whose = ShotId | 'project';

const NOTHING: Look = { cdl: null, curves: null, cube: null };
const NO_LOOK: ProjectLook = { ...NOTHING, isOn: true };
const isNothing = ({ cdl, curves, cube }: Look): boolean => !cdl && !curves && !cube;
const shotOf = (document: ProjectDocument, id: string) => document.shots.find((s) => s.value.id === id)?.value;

/** The look that is edited there: a shot without its own begins with the project's. */
export function lookThere(document: ProjectDocument, whose: Whose): Look {
  const { look } = document.project.value;
  const shot = whose === 'project' ? undefined : shotOf(document, whose);
  return (shot ? lookOfShot({ look }, shot) : look) ?? NOTHING;
}
export const hasOwnLook = (document: ProjectDocument, shotId: string): boolean =>
  Boolean(shotOf(document, shotId)?.look);

/** Is what has a look shown through it? */
export const isLookOn = (document: ProjectDocument): boolean => document.project.value.look?.isOn ?? true;

function putProject(document: ProjectDocument, changed: Partial<Project>): PlainEdit {
  const { value } = document.project;
  return { kind: 'project', id: value.id, value: { ...value, ...changed } };
}
function putLook(document: ProjectDocument, whose: Whose, look: Look, isOn = isLookOn(document)): PlainEdit[] {
  // one of nothing is none, unless it says that looks are off
  if (whose === 'project') return [putProject(document, { look: isNothing(look) && isOn ? null : { ...look, isOn } })];
  const shot = shotOf(document, whose);
  if (!shot) return [];
  const { cdl, curves, cube } = look;
  const own: PlainEdit = { kind: 'shot', id: shot.id, value: { ...shot, look: { cdl, curves, cube } } };
  return isOn === isLookOn(document) ? [own] : [own, ...turnLook(document).edits];
}

/** A look with some of its CDL changed; a CDL that does nothing is none. */
export function withCdl(look: Look, changed: Partial<Cdl>): Look {
  const cdl = { ...NEUTRAL_CDL, ...look.cdl, ...changed };
  return { ...look, cdl: isNeutralCdl(cdl) ? null : cdl };
}
/** A look with some of its curves changed; curves that are all straight are none. */
export function withCurves(look: Look, changed: Partial<LookCurves>): Look {
  const curves = { ...STRAIGHT_LOOK_CURVES, ...look.curves, ...changed };
  return { ...look, curves: Object.values(curves).every(isStraight) ? null : curves };
}

export const setCdl = (document: ProjectDocument, whose: Whose, label: string, changed: Partial<Cdl>): Change => ({
  label: `${label} of the look`,
  edits: putLook(document, whose, withCdl(lookThere(document, whose), changed)),
});
export const setCurves = (
  document: ProjectDocument,
  whose: Whose,
  label: string,
  changed: Partial<LookCurves>,
): Change => ({
  label: `${label} of the look`,
  edits: putLook(document, whose, withCurves(lookThere(document, whose), changed)),
});
/** A table that is brought in is looked through at once. */
export const setCube = (document: ProjectDocument, whose: Whose, cube: CubeFile | null): Change => ({
  label: cube ? `Look through ${cube.name}` : 'Look without a table',
  edits: putLook(document, whose, { ...lookThere(document, whose), cube }, cube !== null || isLookOn(document)),
});

/** The shot is seen through the project's look again. */
export function dropOwnLook(document: ProjectDocument, shotId: ShotId): Change {
  const shot = shotOf(document, shotId);
  const edits: PlainEdit[] = shot?.look ? [{ kind: 'shot', id: shot.id, value: { ...shot, look: null } }] : [];
  return { label: `${shot?.name ?? 'The shot'} through the project’s look`, edits };
}
/** Other shots get the look of one as their own. */
export function sendLook(document: ProjectDocument, from: ShotId, to: readonly ShotId[]): Change {
  const look = lookThere(document, from);
  const edits = to.filter((id) => id !== from).flatMap((id) => putLook(document, id, look));
  return { label: `The look of ${shotOf(document, from)?.name ?? 'the shot'} sent on`, edits };
}

/** Turns looks on or off for everyone's eyes; a render says for itself. */
export function turnLook(document: ProjectDocument): Change {
  const look = document.project.value.look ?? NO_LOOK;
  const isOn = !look.isOn;
  const next = isOn && isNothing(look) ? null : { ...look, isOn };
  return { label: isOn ? 'Look on' : 'Look off', edits: [putProject(document, { look: next })] };
}

/** The table that pictures are judged through and never rendered through. */
export const setViewTable = (document: ProjectDocument, viewTable: CubeFile | null): Change => ({
  label: viewTable ? `Judge through ${viewTable.name}` : 'Judge without a viewing table',
  edits: [putProject(document, { viewTable })],
});
