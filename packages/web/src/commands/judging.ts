// What is kept for judging: stills with all that made them, and versions of a recipe.
import {
  rendersOfShot,
  type ProjectDocument,
  type Recipe,
  type RecipeVersion,
  type Still,
  type StillId,
  type VersionId,
} from '@mellow/contract';
import { layerAt, numbersAt, sightingAt, type Motions } from '@mellow/core';
import type { Change } from '../editing/change.ts';
import { pieceIn, recipeIn, shotIn, type Place } from './place.ts';
import { putNumbers } from './recipe.ts';

/**
 * What is rendered of a shot on one frame, with tracks and keyframes resolved, so that it stays whatever becomes of
 * them.
 */
function resolvedRenders(document: ProjectDocument, place: Place, motions: Motions): Still['renders'] {
  const { renders, sightings } = rendersOfShot(document, place.shotId!, place.colourwayId);
  return renders.map((render, i) => {
    const { animated, ...now } = numbersAt(render, render.animated, place.frame);
    const { spill } = sightingAt({ ...render, animated }, place.frame, motions);
    const layers = render.layers.map((layer) => layerAt(layer, place.frame, motions));
    return { ...now, layers, spill, pieceId: sightings[i]!.pieceId };
  });
}

/** Keeps the frame in hand as it is seen. */
export function keepStill(document: ProjectDocument, place: Place, name: string): Change {
  const shot = shotIn(document, place);
  if (!shot) return { label: '', edits: [] };
  const id = crypto.randomUUID() as StillId;
  const value: Still = {
    id,
    projectId: document.project.value.id,
    name: name.trim() || `${shot.name}, frame ${place.frame}`,
    shotId: shot.id,
    frame: place.frame,
    colourwayId: place.colourwayId ?? null,
    encoding: shot.encoding,
    balance: shot.balance,
    renders: resolvedRenders(document, place, place.motions),
  };
  return { label: `Keep the still ${value.name}`, edits: [{ kind: 'still', id, value }] };
}
export const dropStill = (still: Still): Change => ({
  label: `Remove the still ${still.name}`,
  edits: [{ kind: 'still', id: still.id, value: null }],
});
/** Gives the piece in hand the recipe that it has in a still; its keyframes in this shot go. */
export function takeFromStill(document: ProjectDocument, place: Place, still: Still): Change {
  const kept = still.renders.find((r) => r.pieceId === place.pieceId);
  if (!kept) return { label: '', edits: [] };
  const { match, repaint, shift, finer, strength } = kept;
  return putNumbers(document, place, `Take the recipe of ${still.name}`, { match, repaint, shift, finer, strength });
}

/** Keeps the recipe in hand, keyframes and all, under a name. */
export function keepVersion(document: ProjectDocument, place: Place, name: string): Change {
  const recipe = recipeIn(document, place);
  const piece = pieceIn(document, place);
  if (!recipe || !piece) return { label: '', edits: [] };
  const { projectId, pieceId, colourwayId, animated, id: _id, ...numbers } = recipe;
  const id = crypto.randomUUID() as VersionId;
  const title = name.trim() || `Version ${versionsOf(document, place).length + 1}`;
  const value: RecipeVersion = { id, projectId, pieceId, colourwayId, name: title, numbers, animated };
  return { label: `Keep ${title} of ${piece.name}`, edits: [{ kind: 'version', id, value }] };
}
/** The versions of the recipe in hand, oldest first. */
export const versionsOf = (document: ProjectDocument, { pieceId, colourwayId }: Place): RecipeVersion[] =>
  document.versions.map((v) => v.value).filter((v) => v.pieceId === pieceId && v.colourwayId === colourwayId);
/** Makes a version the recipe again. */
export function takeVersion(document: ProjectDocument, place: Place, version: RecipeVersion): Change {
  const recipe = recipeIn(document, place);
  const { numbers, animated } = version;
  if (!recipe) return { label: '', edits: [] };
  const value: Recipe = { ...recipe, ...numbers, animated: animated };
  return { label: `Take ${version.name}`, edits: [{ kind: 'recipe', id: recipe.id, value }] };
}
export const dropVersion = (version: RecipeVersion): Change => ({
  label: `Remove ${version.name}`,
  edits: [{ kind: 'version', id: version.id, value: null }],
});

/** The document with the recipe of a version in place of the present one: to look at it, not to keep it. */
export function withVersion(document: ProjectDocument, version: RecipeVersion): ProjectDocument {
  const isIts = (r: Recipe) => r.pieceId === version.pieceId && r.colourwayId === version.colourwayId;
  return {
    ...document,
    recipes: document.recipes.map((row) =>
      isIts(row.value) ? { ...row, value: { ...row.value, ...version.numbers, animated: version.animated } } : row,
    ),
  };
}
