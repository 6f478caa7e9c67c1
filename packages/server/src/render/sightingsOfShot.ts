import type { ProjectDocument } from '@mellow/contract';
import { NEUTRAL_SHIFT, type SightingRender } from '@mellow/core';

/** The sightings of a shot in the order pieces are recoloured, each with its recipe in the colourway (neutral without one). */
export function sightingsOfShot(document: ProjectDocument, shotId: string, colourwayId: string): { renders: SightingRender[]; ids: string[] } {
  const order = new Map(document.pieces.map((piece, i) => [piece.value.id, i]));
  const inShot = document.sightings
    .filter((s) => s.value.shotId === shotId)
    .sort((a, b) => (order.get(a.value.pieceId) ?? 0) - (order.get(b.value.pieceId) ?? 0));
  const renders = inShot.map(({ value }): SightingRender => {
    const recipe = document.recipes.find((r) => r.value.pieceId === value.pieceId && r.value.colourwayId === colourwayId)?.value;
    return { layers: value.layers, shift: recipe?.shift ?? NEUTRAL_SHIFT, strength: recipe?.strength ?? 1 };
  });
  return { renders, ids: inShot.map((s) => s.value.id) };
}
