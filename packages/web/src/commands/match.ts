// What matching and solving change: a recipe's gain or shift, a shot's light, a sighting's trim.
import type { LightByHand, Patch, ProjectDocument, SheenBody, Shot, ShotLight, Sighting } from '@mellow/contract';
import { NEUTRAL_GAIN, NEUTRAL_SHIFT, rebasedLight, scaled, whiteMatrix, type Gain, type Shift } from '@mellow/core';
import type { Change } from '../editing/change.ts';
import { sightingIn, type Place } from './place.ts';
import { changeRecipe } from './recipe.ts';

/**
 * A match takes the place of what was set by hand: a gain that of the shift, a shift that of the gain. A repaint also
 * says what tells sheen apart in this shot; where it cannot be told it is a match.
 */
export function setMatch(
  document: ProjectDocument,
  place: Place,
  found: { gain?: Gain; shift?: Shift; dye?: number; softenPx?: number; body?: SheenBody },
): Change {
  const isRepaint = found.body !== undefined && found.body.confidence > 0;
  const step = {
    match: found.gain ?? NEUTRAL_GAIN,
    repaint: { on: isRepaint },
    shift: found.shift ?? NEUTRAL_SHIFT,
    finer: {
      ...(found.dye !== undefined && { dye: { on: true, concentration: found.dye } }),
      ...(found.softenPx !== undefined && { texture: { on: true, colourPx: found.softenPx } }),
    },
  };
  const change = changeRecipe(document, place, isRepaint ? 'Repaint' : 'Match', step);
  const sighting = sightingIn(document, place);
  if (!found.body || !sighting) return change;
  const value = { ...sighting, body: found.body };
  return { ...change, edits: [...change.edits, { kind: 'sighting', id: sighting.id, value }] };
}

/** Null: the shot is taken to have the reference shot's light. */
export const setLight = (shot: Shot, light: ShotLight | null): Change => ({
  label: light ? `Take the light of ${shot.name}` : `No light of its own for ${shot.name}`,
  edits: [{ kind: 'shot', id: shot.id, value: { ...shot, light } }],
});

/** A light set by hand, in the words of a photographer. */
export function lightByHand(byHand: LightByHand): ShotLight {
  const { warmthMired, tint, exposureStops } = byHand;
  const matrix = scaled(whiteMatrix(warmthMired, tint), 2 ** exposureStops);
  return { how: 'hand', byHand, matrix: [...matrix] as ShotLight['matrix'] };
}
const PATCH_NAMES = Array.from({ length: 26 }, (_, k) => String.fromCharCode(65 + k));
/** The name a new patch gets: the first of the reference shot's that is not here yet, else the next free letter. */
export function nextPatchName(shot: Shot, reference: Shot | undefined, isNeutral: boolean): string {
  const here = new Set(shot.patches.map((p) => p.name));
  const wanted = (reference?.patches ?? []).find((p) => p.isNeutral === isNeutral && !here.has(p.name));
  const taken = new Set([...here, ...(reference?.patches ?? []).map((p) => p.name)]);
  return wanted?.name ?? PATCH_NAMES.find((letter) => !taken.has(letter)) ?? `${taken.size + 1}`;
}
export const setPatches = (shot: Shot, patches: Patch[], label: string): Change => ({
  label,
  edits: [{ kind: 'shot', id: shot.id, value: { ...shot, patches } }],
});

/**
 * Makes a shot the one in whose light colours are stated. It has no light of its own then; lights that are known are
 * stated against it from now on.
 */
export function setReferenceShot(document: ProjectDocument, shot: Shot): Change {
  const { value } = document.project;
  const edits: Change['edits'] = [{ kind: 'project', id: value.id, value: { ...value, referenceShotId: shot.id } }];
  const own = shot.light?.matrix;
  for (const { value: each } of own ? document.shots : []) {
    const isKnown = each.light !== null || each.id === value.referenceShotId;
    if (!own || !isKnown) continue;
    const matrix = [...rebasedLight(each.light?.matrix, own)] as ShotLight['matrix'];
    const light = each.id === shot.id ? null : { how: each.light?.how ?? shot.light!.how, matrix };
    edits.push({ kind: 'shot', id: each.id, value: { ...each, light } });
  }
  return { label: `${shot.name} is the reference shot`, edits };
}

/** Gains laid on top of a piece's recipe in some shots, in one step. */
export function setTrims(
  document: ProjectDocument,
  colourwayId: string,
  label: string,
  trims: readonly { sightingId: string; gain: Gain | null }[],
): Change {
  const edits = trims.flatMap(({ sightingId, gain }): Change['edits'] => {
    const before = document.sightings.find((s) => s.value.id === sightingId)?.value;
    if (!before) return [];
    const { [colourwayId]: own, ...others } = before.trims as Record<string, Sighting['trims'][never]>;
    const next = gain ? { ...others, [colourwayId]: { gain, shift: own?.shift ?? NEUTRAL_SHIFT } } : others;
    return [{ kind: 'sighting', id: before.id, value: { ...before, trims: next } }];
  });
  return { label, edits };
}
