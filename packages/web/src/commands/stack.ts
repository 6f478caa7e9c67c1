// Edits of a matte stack. Each takes the document as it stands and gives one named step of the history.
import type { CleanUp, Layer, ProjectDocument, ShapeLayer, Sighting, SightingId, Spill } from '@mellow/contract';
import { foldNumbers, numbersAt, pathEdited, shownLayerAt, type Keyframing } from '@mellow/core';
import type { Change } from '../editing/change.ts';
import type { Draft } from '../view/draftSlice.ts';
import { sightingIn, type Place } from './place.ts';

/** What of a sighting can be edited. */
export type SightingEdit = Partial<Omit<Sighting, 'id' | 'projectId' | 'pieceId' | 'shotId'>>;
/** Clean-up and spill, which hold for the stack as a whole. */
export interface WholeEdit {
  cleanUp?: CleanUp;
  spill?: Spill;
}
const NO_CHANGE: Change = { label: '', edits: [] };

export const layersIn = (document: ProjectDocument, place: Place): Layer[] => sightingIn(document, place)?.layers ?? [];

/** Changes the sighting in hand; makes it when this is the first layer of the piece in the shot. */
export function changeSighting(document: ProjectDocument, place: Place, label: string, changed: SightingEdit): Change {
  const { shotId, pieceId } = place;
  if (!shotId || !pieceId) return NO_CHANGE;
  const before = sightingIn(document, place);
  const value: Sighting = {
    id: before?.id ?? (crypto.randomUUID() as SightingId),
    projectId: document.project.value.id,
    pieceId,
    shotId,
    layers: before?.layers ?? [],
    cleanUp: before?.cleanUp ?? null,
    spill: before?.spill ?? null,
    animated: before?.animated ?? {},
    steadyFrames: before?.steadyFrames ?? 0,
    trims: before?.trims ?? {},
    body: before?.body ?? null,
    // an approval holds for what was looked at
    state: before?.state === 'approved' ? 'ready' : (before?.state ?? 'rough'),
    ...changed,
  };
  return { label, edits: [{ kind: 'sighting', id: value.id, value }] };
}

/** Clean-up or spill changed by its controls on this frame: what has keyframes changes there. */
export function foldedWhole(document: ProjectDocument, place: Place, changed: WholeEdit): SightingEdit {
  const stored = sightingIn(document, place);
  if (!stored) return changed;
  const { cleanUp, spill } = numbersAt(stored, stored.animated, place.frame);
  const before = { cleanUp, spill, animated: stored.animated };
  const next = foldNumbers(before, before, { ...before, ...changed }, place.keyframing, ['spill.within']);
  return {
    ...(changed.cleanUp && { cleanUp: next.cleanUp }),
    ...(changed.spill && { spill: next.spill }),
    animated: next.animated,
  };
}
export const changeWhole = (document: ProjectDocument, place: Place, label: string, changed: WholeEdit): Change =>
  changeSighting(document, place, label, foldedWhole(document, place, changed));

/** Numbers that have no keyframes of their own: the path has its keyframes as a whole. */
const WITHOUT_KEYFRAMES = [
  'geometry',
  'paths',
  'placement.pivotX',
  'placement.pivotY',
  'span',
  'follow',
  'picks',
  'strokes',
  'layers',
];
/** An edit of a layer as shown on a frame, folded into what is stored: numbers and path into their keyframes. */
function foldedLayer<L extends Layer>(stored: L, edited: L, keyframing: Keyframing): L {
  const shown = shownLayerAt(stored, keyframing.frame);
  const numbers = foldNumbers<L>(stored, shown, edited, keyframing, WITHOUT_KEYFRAMES);
  if (stored.kind !== 'shape') return numbers;
  const [before, now] = [shown as ShapeLayer, edited as ShapeLayer];
  if (JSON.stringify(before.geometry) === JSON.stringify(now.geometry))
    return { ...numbers, geometry: stored.geometry };
  return { ...numbers, ...pathEdited({ geometry: stored.geometry, paths: now.paths }, now.geometry, keyframing) };
}
/** The stack with an edited layer folded in, for a draft and for the edit that follows it. */
export const withEditedLayer = (document: ProjectDocument, place: Place, edited: Layer): Layer[] =>
  layersIn(document, place).map((l) => (l.id === edited.id ? foldedLayer(l, edited, place.keyframing) : l));

export const setLayers = (document: ProjectDocument, place: Place, label: string, layers: Layer[]): Change =>
  changeSighting(document, place, label, { layers });
/** A layer edited as it is shown on this frame. */
export const editLayer = (document: ProjectDocument, place: Place, label: string, edited: Layer): Change =>
  setLayers(document, place, label, withEditedLayer(document, place, edited));
/** A layer put in as it is given, keyframes and all. */
export const putLayer = (document: ProjectDocument, place: Place, label: string, put: Layer): Change =>
  setLayers(
    document,
    place,
    label,
    layersIn(document, place).map((l) => (l.id === put.id ? put : l)),
  );
export const addLayer = (document: ProjectDocument, place: Place, label: string, added: Layer): Change =>
  setLayers(document, place, label, [...layersIn(document, place), added]);

/** What a hand moves of the sighting, as a draft. Undefined where nothing is isolated yet. */
export function sightingDraft(document: ProjectDocument, place: Place, changed: SightingEdit): Draft | undefined {
  const sighting = sightingIn(document, place);
  if (!sighting) return undefined;
  const { layers, cleanUp, spill, animated } = changed;
  return {
    sighting: {
      sightingId: sighting.id,
      ...(layers && { layers }),
      ...(cleanUp && { cleanUp }),
      ...(spill && { spill }),
      ...(animated && { animated: animated }),
    },
  };
}
