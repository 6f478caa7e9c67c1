// The overall correction after all recolours.
import type { CubeFile, ProjectDocument, ProjectLook } from '@mellow/contract';
import { isNeutralCdl, NEUTRAL_CDL, type Cdl } from '@mellow/core';
import type { Change } from '../editing/change.ts';

const NO_LOOK: ProjectLook = { isOn: true, cdl: null, cube: null };

/** A look with some of its CDL changed; a CDL that does nothing is none. */
export function withCdl(look: ProjectLook | null, changed: Partial<Cdl>): ProjectLook {
  const cdl = { ...NEUTRAL_CDL, ...look?.cdl, ...changed };
  return { ...(look ?? NO_LOOK), cdl: isNeutralCdl(cdl) ? null : cdl };
}

/** Sets the project's look; one of nothing is none. */
function setLook(document: ProjectDocument, label: string, look: ProjectLook): Change {
  const { value } = document.project;
  const next = look.cdl || look.cube ? look : null;
  return { label, edits: [{ kind: 'project', id: value.id, value: { ...value, look: next } }] };
}
export const setCdl = (document: ProjectDocument, label: string, changed: Partial<Cdl>): Change =>
  setLook(document, `${label} of the look`, withCdl(document.project.value.look, changed));
export const setCube = (document: ProjectDocument, cube: CubeFile | null): Change =>
  setLook(document, cube ? `Look through ${cube.name}` : 'Look without a table', {
    ...(document.project.value.look ?? NO_LOOK),
    ...(cube && { isOn: true }),
    cube,
  });
/** Turns the look on or off for everyone's eyes; a render says for itself. */
export function turnLook(document: ProjectDocument): Change {
  const look = document.project.value.look ?? NO_LOOK;
  return setLook(document, look.isOn ? 'Look off' : 'Look on', { ...look, isOn: !look.isOn });
}
