// What is asked of the engine to match pieces and to find lights.
import type { ProjectDocument, Requirement, Shot, Sighting, Trim } from '@mellow/contract';
import { inShotLight, lightBetween, NEUTRAL_RECIPE, type Carried } from '@mellow/core';
import type { FrameScene, MatchWay, Task } from '../engine/frameProtocol.ts';
import { frameClient } from '../engine/frameClient.ts';
import { requiredLab } from '../ui/colour.ts';
import { frameSceneAt } from './frameScene.ts';
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
export function scenesOf({ document, colourwayId, motionsOf }: Known, shot: Shot, pieceId: string): FrameScene[] {
  const media = document.media.find((m) => m.id === shot.mediaId);
  if (!media || document.proxies[media.id]?.state !== 'done') return [];
  const looked = { document, shot, media, colourwayId, pieceId, motions: motionsOf(shot.id) };
  return spreadFrames(media.frames).map((f) => frameSceneAt(looked, f, false));
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

/** The light of a shot from the piece's own old colour there and in the reference shot; undefined without either. */
export async function probedLight(known: Known, pieceId: string, reference: Shot, here: Shot) {
  const colourIn = (shot: Shot) => frameClient().ask({ kind: 'source colour', scenes: scenesOf(known, shot, pieceId) });
  const [there, own] = await Promise.all([colourIn(reference), colourIn(here)]);
  return there && own && lightBetween(there.meanLinear, own.meanLinear);
}
