import { z } from 'zod';
import { Animated } from './animation.ts';
import {
  Encoding,
  Recipe,
  RecipeNumbers,
  SheenBody,
  ShotLight,
  Trim,
  type Balance,
  type Shot,
  type Sighting,
} from './entities.ts';
import { withFound } from './carrying.ts';
import { CleanUp, Layer, Spill } from './layer.ts';
import type { ProjectDocument } from './projectDocument.ts';

/** A sighting with its recipe, as the renderer takes it. */
export const ShotRenderSighting = RecipeNumbers.extend({
  layers: z.array(Layer),
  cleanUp: CleanUp.optional(),
  spill: Spill.optional(),
  steadyFrames: z.number().int().optional(),
  /** The shot's light; left out: the reference shot's. */
  light: ShotLight.shape.matrix.optional(),
  trim: Trim.optional(),
  body: SheenBody.optional(),
  /** The shot's, where the recipe keeps to its gamut. */
  encoding: Encoding.optional(),
  /** Keyframes of clean-up, spill and recipe in this shot. */
  animated: Animated.optional(),
});
export type ShotRenderSighting = z.infer<typeof ShotRenderSighting>;
const NEUTRAL: RecipeNumbers = RecipeNumbers.parse({
  shift: { exposureStops: 0, hueDeg: 0, saturation: 1, density: 0 },
  strength: 1,
});

/**
 * The sightings of a shot in the order pieces are recoloured, each with its recipe in the colourway (neutral without
 * one). Server and web render from this one list, so what is seen is what is rendered.
 */
export function rendersOfShot(
  document: Pick<ProjectDocument, 'pieces' | 'sightings' | 'recipes' | 'shots' | 'carried'>,
  shotId: string,
  colourwayId: string | undefined,
): { renders: ShotRenderSighting[]; sightings: Sighting[] } {
  const order = new Map(document.pieces.map((piece, i) => [piece.value.id as string, i]));
  const shot = document.shots.find((s) => s.value.id === shotId)?.value;
  const light = shot?.light?.matrix;
  const sightings = document.sightings
    .map((s) => s.value)
    .filter((s) => s.shotId === shotId)
    .sort((a, b) => (order.get(a.pieceId) ?? 0) - (order.get(b.pieceId) ?? 0));
  const renders = sightings.map((value): ShotRenderSighting => {
    const recipe: Recipe | undefined = document.recipes.find(
      (r) => r.value.pieceId === value.pieceId && r.value.colourwayId === colourwayId,
    )?.value;
    const { match, repaint, shift, finer, strength } = recipe ?? NEUTRAL;
    const animated = { ...value.animated, ...recipe?.animated[value.shotId] };
    const trim = colourwayId === undefined ? undefined : (value.trims as Record<string, Trim>)[colourwayId];
    return {
      layers: withFound(value.layers, document.carried),
      cleanUp: value.cleanUp ?? undefined,
      spill: value.spill ?? undefined,
      match,
      repaint,
      shift,
      finer,
      strength,
      ...(finer.guard.on && shot && { encoding: shot.encoding }),
      ...(light && { light }),
      ...(trim && { trim }),
      ...(value.body && { body: value.body }),
      ...(value.steadyFrames > 0 && { steadyFrames: value.steadyFrames }),
      ...(Object.keys(animated).length > 0 && { animated }),
    };
  });
  return { renders, sightings };
}

export const balanceOf = (shot: Pick<Shot, 'balance'>): Balance | undefined => shot.balance ?? undefined;
