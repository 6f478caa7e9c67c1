// What is asked of the engine to match pieces and to find lights.
import {
  frameCount,
  framesOf,
  type Patch,
  type ProjectDocument,
  type Requirement,
  type Shot,
  type ShotLight,
  type Sighting,
  type Trim,
} from '@mellow/contract';
import {
  inShotLight,
  lightBetween,
  lightOfBoth,
  lightOfPatches,
  NEUTRAL_RECIPE,
  type Carried,
  type Light,
} from '@mellow/core';
import type { FrameScene, MatchWay, Task } from '../engine/frameProtocol.ts';
import { frameClient } from '../engine/frameClient.ts';
import { requiredLab } from '../ui/colour.ts';
import { frameRefOf, frameSceneAt } from './frameScene.ts';
import type { InHand } from './inHand.ts';

/** So many frames of a shot stand for all: their mean is that of the shot within ΔE00 0.2 on the demo's pieces. */
const MATCH_FRAMES = 7;
export const ALL_CARRIED: Carried = { hue: true, saturation: true, lightness: true };

/** Frames evenly spread over a shot, the ends half a step away. */
export const spreadFrames = (frames: number, most = MATCH_FRAMES): number[] => {
  const n = Math.min(frames, most);
  return Array.from({ length: n }, (_, k) => Math.floor(((k + 0.5) * frames) / n));
};

type Known = Pick<InHand, 'document' | 'colourwayId' | 'motionsOf'>;
/** The frames of a piece's shot that stand for it; none while the shot has no proxies. */
export function scenesOf(
  { document, colourwayId, motionsOf }: Known,
  shot: Shot,
  pieceId: string,
  most = MATCH_FRAMES,
): FrameScene[] {
  const media = document.media.find((m) => m.id === shot.mediaId);
  if (!media || document.proxies[media.id]?.state !== 'done') return [];
  const looked = { document, shot, media, colourwayId, pieceId, motions: motionsOf(shot.id) };
  const span = framesOf(looked.shot, media);
  return spreadFrames(frameCount(span), most).map((f) => frameSceneAt(looked, span.from + f, false));
}

export interface MatchAsked {
  shot: Shot;
  sighting: Sighting;
  requirement: Requirement;
  way: MatchWay;
  carried?: Carried;
}
/** The match of a sighting with its requirement, in its own shot's light. */
export function matchTask(
  known: Known,
  { shot, sighting, requirement, way, carried = ALL_CARRIED }: MatchAsked,
): Extract<Task, { kind: 'match' }> {
  const { document, colourwayId } = known;
  const recipe = document.recipes.find(
    (r) => r.value.pieceId === sighting.pieceId && r.value.colourwayId === colourwayId,
  )?.value;
  const { match, repaint, shift, finer, strength } = recipe ?? NEUTRAL_RECIPE;
  const trim = colourwayId && (sighting.trims as Record<string, Trim>)[colourwayId];
  const light = shot.light?.matrix;
  return {
    kind: 'match',
    scenes: scenesOf(known, shot, sighting.pieceId),
    way,
    wanted: inShotLight(light, requiredLab(requirement)),
    carried,
    of: requirement.of,
    recipe: { match, repaint, shift, finer, strength },
    ...(sighting.body && { body: sighting.body }),
    ...(light && { light }),
    ...(trim && { trim }),
  };
}
export const askMatch = (known: Known, asked: MatchAsked) => frameClient().ask(matchTask(known, asked));

/** The sighting of a piece in a shot, where something of it is isolated. */
export const isolatedIn = (document: ProjectDocument, pieceId: string, shotId: string): Sighting | undefined =>
  document.sightings
    .map((s) => s.value)
    .find((s) => s.pieceId === pieceId && s.shotId === shotId && s.layers.length > 0);

type Seen = readonly [number, number, number];
/** Colours of one thing in both shots. */
interface Pair {
  reference: Seen;
  here: Seen;
}
/** The patches that both shots have under the same name, with their colours in both. */
async function patchPairs({ document }: Known, reference: Shot, here: Shot, isNeutral?: boolean): Promise<Pair[]> {
  const shared = here.patches.flatMap((own) => {
    const other = reference.patches.find((p) => p.name === own.name);
    return other && (isNeutral === undefined || (own.isNeutral && other.isNeutral)) ? [{ own, other }] : [];
  });
  const asked = (shot: Shot, patch: Patch) => {
    const media = document.media.find((m) => m.id === shot.mediaId)!;
    return { ...patch, frame: frameRefOf(document, shot, media, patch.frame) };
  };
  if (shared.length === 0) return [];
  const { means } = await frameClient().ask({
    kind: 'patch colours',
    patches: shared.flatMap(({ own, other }) => [asked(here, own), asked(reference, other)]),
  });
  return shared.map((_, k) => ({ here: means[2 * k]!, reference: means[2 * k + 1]! }));
}
/** Several neutrals count as one: the mean of their light. */
function asOne(pairs: readonly Pair[]): Pair | undefined {
  if (pairs.length === 0) return undefined;
  const mean = (of: (p: Pair) => Seen): Seen =>
    [0, 1, 2].map((c) => pairs.reduce((sum, p) => sum + of(p)[c]!, 0) / pairs.length) as unknown as Seen;
  return { reference: mean((p) => p.reference), here: mean((p) => p.here) };
}
async function probePair(known: Known, pieceId: string | undefined, reference: Shot, here: Shot) {
  if (!pieceId) return undefined;
  const colourIn = (shot: Shot) => frameClient().ask({ kind: 'source colour', scenes: scenesOf(known, shot, pieceId) });
  const [there, own] = await Promise.all([colourIn(reference), colourIn(here)]);
  return there && own && { reference: there.meanLinear, here: own.meanLinear };
}
/** Every way to a light but that by hand. */
export type LightWay = Exclude<ShotLight['how'], 'hand'>;
/** A shot's light against the reference shot's; a text says what is missing for it. */
export async function foundLight(
  known: Known,
  way: LightWay,
  pieceId: string | undefined,
  reference: Shot,
  here: Shot,
): Promise<Light | string> {
  const probe = way === 'probe' || way === 'both' ? await probePair(known, pieceId, reference, here) : undefined;
  const neutral =
    way === 'neutral' || way === 'both' ? asOne(await patchPairs(known, reference, here, true)) : undefined;
  const noProbe = 'The piece must be isolated in both shots.';
  const noNeutral = 'Pick a neutral in both shots, under the same letter.';
  switch (way) {
    case 'probe':
      return probe ? lightBetween(probe.reference, probe.here) : noProbe;
    case 'neutral':
      return neutral ? lightBetween(neutral.reference, neutral.here) : noNeutral;
    case 'both': {
      if (!probe) return noProbe;
      return neutral ? lightOfBoth(neutral, probe) : noNeutral;
    }
    case 'patches': {
      const pairs = await patchPairs(known, reference, here);
      if (pairs.length < 3)
        return `Three patches are needed in both shots, under the same letters; ${pairs.length} are.`;
      return lightOfPatches(pairs);
    }
  }
}

/** The light of a shot from the piece's own old colour there and in the reference shot; undefined without either. */
export async function probedLight(known: Known, pieceId: string, reference: Shot, here: Shot) {
  const light = await foundLight(known, 'probe', pieceId, reference, here);
  return typeof light === 'string' ? undefined : light;
}
