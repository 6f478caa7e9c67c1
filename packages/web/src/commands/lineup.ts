// What the line-up does to several shots at once: how far they are, and work sent from one to others.
import {
  framesOf,
  type Animated,
  type ProjectDocument,
  type Recipe,
  type Shot,
  type Sighting,
  type SightingId,
  type SightingState,
} from '@mellow/contract';
import type { Change } from '../editing/change.ts';
import { setLight } from './match.ts';
import { pastedInto } from './layers.ts';
import { animatedLater, layerLater } from './movedInTime.ts';

/** What of a sighting, or of its shot, can be sent to other shots. */
export const SENDABLE = [
  'matte stack',
  'clean-up',
  'spill',
  'trim',
  'light',
  'balance',
  'keyframes of the recipe',
] as const;
export type Sendable = (typeof SENDABLE)[number];

const sightingOf = (document: ProjectDocument, pieceId: string, shotId: string): Sighting | undefined =>
  document.sightings.find((s) => s.value.pieceId === pieceId && s.value.shotId === shotId)?.value;
const shotOf = (document: ProjectDocument, id: string): Shot | undefined =>
  document.shots.find((s) => s.value.id === id)?.value;

export const setState = (sighting: Sighting, state: SightingState, where: string): Change => ({
  label: `${where}: ${state}`,
  edits: [{ kind: 'sighting', id: sighting.id, value: { ...sighting, state } }],
});

/** Its spill in another shot: a track may mark where it is let in, and there is none there. */
const spillOf = ({ spill }: Sighting): Sighting['spill'] =>
  spill && { ...spill, within: spill.within && { ...spill.within, follow: undefined } };

/** A part of what a sighting has, with its keyframes, as that of the same piece in another shot. */
function partIn(
  document: ProjectDocument,
  from: Sighting,
  shotId: string,
  part: 'cleanUp' | 'spill',
  later: number,
): Change['edits'] {
  const before = sightingOf(document, from.pieceId, shotId);
  if (!before) return [];
  const isOfPart = (name: string): boolean => name.startsWith(`${part}.`);
  const keyed = (animated: Animated, isWanted: (name: string) => boolean): Animated =>
    Object.fromEntries(Object.entries(animated).filter(([name]) => isWanted(name)));
  const sent = animatedLater(keyed(from.animated, isOfPart), later);
  const animated = { ...keyed(before.animated, (name) => !isOfPart(name)), ...sent };
  const own = part === 'spill' ? { spill: spillOf(from) } : { cleanUp: from.cleanUp, steadyFrames: from.steadyFrames };
  return [{ kind: 'sighting', id: before.id, value: { ...before, ...own, animated } }];
}

/** The stack, clean-up and steadying as they are here; shapes stay where they are, tracks belong to their own shot. */
function stackIn(
  document: ProjectDocument,
  from: Sighting,
  shotId: Shot['id'],
  later: number,
): Change['edits'][number] {
  const tracks = document.tracks.filter((t) => t.value.shotId === shotId).map((t) => t.value.id);
  const before = sightingOf(document, from.pieceId, shotId);
  const value: Sighting = {
    ...from,
    trims: {},
    body: null,
    ...before,
    id: before?.id ?? (crypto.randomUUID() as SightingId),
    shotId,
    layers: from.layers.map((layer) => layerLater(pastedInto(layer, tracks), later)),
    cleanUp: from.cleanUp,
    steadyFrames: from.steadyFrames,
    animated: animatedLater(from.animated, later),
    spill: spillOf(from),
    state: 'rough',
  };
  return { kind: 'sighting', id: value.id, value };
}

function trimIn(document: ProjectDocument, from: Sighting, shotId: string, colourwayId: string): Change['edits'] {
  const before = sightingOf(document, from.pieceId, shotId);
  const trim = (from.trims as Record<string, Sighting['trims'][never]>)[colourwayId];
  if (!before) return [];
  const { [colourwayId]: _own, ...others } = before.trims as Record<string, Sighting['trims'][never]>;
  const trims = trim ? { ...others, [colourwayId]: trim } : others;
  return [{ kind: 'sighting', id: before.id, value: { ...before, trims } }];
}

/** The recipe's keyframes in one shot, as those of others. */
function keyframesIn(
  document: ProjectDocument,
  from: Sighting,
  shotIds: readonly string[],
  colourwayId: string,
  laterIn: (shotId: string) => number,
): Change['edits'] {
  const recipe = document.recipes.find(
    (r) => r.value.pieceId === from.pieceId && r.value.colourwayId === colourwayId,
  )?.value;
  if (!recipe) return [];
  const { animated } = recipe as Omit<Recipe, 'animated'> & { animated: Record<string, Animated> };
  const own = animated[from.shotId];
  const others = Object.entries(animated).filter(([id]) => !shotIds.includes(id));
  const next = Object.fromEntries([
    ...others,
    ...(own ? shotIds.map((id) => [id, animatedLater(own, laterIn(id))] as const) : []),
  ]);
  return [{ kind: 'recipe', id: recipe.id, value: { ...recipe, animated: next } }];
}

/** At which frames sent work stands: at the numbers that it has, or counted from the first frame of its shot. */
export type SentAt = 'frame numbers' | 'first frame';
const firstFrameOf = (document: ProjectDocument, shot: Shot): number => {
  const media = document.media.find((m) => m.id === shot.mediaId);
  return media ? framesOf(shot, media).from : 0;
};
/** By how many frames another shot begins later. */
export function beginsLater(document: ProjectDocument, shotId: string, than: string): number {
  const [shot, other] = [shotOf(document, shotId), shotOf(document, than)];
  return shot && other ? firstFrameOf(document, shot) - firstFrameOf(document, other) : 0;
}

/** Sends what one sighting has to other shots, as one step. What a shot has no use for is left out. */
export function send(
  document: ProjectDocument,
  what: Sendable,
  from: Sighting,
  shotIds: readonly Shot['id'][],
  colourwayId: string,
  at: SentAt = 'frame numbers',
): Change {
  const to = shotIds.filter((id) => id !== from.shotId);
  const shot = shotOf(document, from.shotId);
  const later = (id: string) => (at === 'first frame' ? beginsLater(document, id, from.shotId) : 0);
  const EDITS: Record<Sendable, () => Change['edits']> = {
    'matte stack': () => to.map((id) => stackIn(document, from, id, later(id))),
    'clean-up': () => to.flatMap((id) => partIn(document, from, id, 'cleanUp', later(id))),
    spill: () => to.flatMap((id) => partIn(document, from, id, 'spill', later(id))),
    trim: () => to.flatMap((id) => trimIn(document, from, id, colourwayId)),
    light: () =>
      to.flatMap((id) => {
        const other = shotOf(document, id);
        return other ? setLight(other, shot?.light ?? null).edits : [];
      }),
    balance: () =>
      to.flatMap((id): Change['edits'] => {
        const other = shotOf(document, id);
        return other ? [{ kind: 'shot', id, value: { ...other, balance: shot?.balance ?? null } }] : [];
      }),
    'keyframes of the recipe': () => keyframesIn(document, from, to, colourwayId, later),
  };
  const n = to.length;
  const edits = EDITS[what]();
  return { label: `Send the ${what} of ${shot?.name ?? 'a shot'} to ${n} ${n === 1 ? 'shot' : 'shots'}`, edits };
}
