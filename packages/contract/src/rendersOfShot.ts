import type { Balance, Recipe, Shift, Shot, Sighting } from './entities.ts';
import type { Animated } from './animation.ts';
import type { CleanUp, Layer, Spill } from './layer.ts';
import type { ProjectDocument } from './projectDocument.ts';

/** A sighting with its recipe, as the renderer takes it. */
export interface ShotRenderSighting {
  layers: Layer[];
  cleanUp?: CleanUp | undefined;
  spill?: Spill | undefined;
  shift: Shift;
  strength: number;
  steadyFrames?: number | undefined;
  /** Keyframes of clean-up, spill, shift and strength in this shot. */
  animated?: Animated | undefined;
}
const NEUTRAL: Shift = { exposureStops: 0, hueDeg: 0, saturation: 1, density: 0 };

/**
 * The sightings of a shot in the order pieces are recoloured, each with its recipe in the colourway (neutral without
 * one). Server and web render from this one list, so what is seen is what is rendered.
 */
export function rendersOfShot(
  document: Pick<ProjectDocument, 'pieces' | 'sightings' | 'recipes'>,
  shotId: string,
  colourwayId: string | undefined,
): { renders: ShotRenderSighting[]; sightings: Sighting[] } {
  const order = new Map(document.pieces.map((piece, i) => [piece.value.id as string, i]));
  const sightings = document.sightings
    .map((s) => s.value)
    .filter((s) => s.shotId === shotId)
    .sort((a, b) => (order.get(a.pieceId) ?? 0) - (order.get(b.pieceId) ?? 0));
  const renders = sightings.map((value): ShotRenderSighting => {
    const recipe: Recipe | undefined = document.recipes.find(
      (r) => r.value.pieceId === value.pieceId && r.value.colourwayId === colourwayId,
    )?.value;
    const animated = { ...value.animated, ...recipe?.animated[value.shotId] };
    return {
      layers: value.layers,
      cleanUp: value.cleanUp ?? undefined,
      spill: value.spill ?? undefined,
      shift: recipe?.shift ?? NEUTRAL,
      strength: recipe?.strength ?? 1,
      ...(value.steadyFrames > 0 && { steadyFrames: value.steadyFrames }),
      ...(Object.keys(animated).length > 0 && { animated }),
    };
  });
  return { renders, sightings };
}

export const balanceOf = (shot: Pick<Shot, 'balance'>): Balance | undefined => shot.balance ?? undefined;
