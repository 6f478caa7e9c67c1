// Edits of a recipe: how a piece is recoloured in one colourway, on all shots but for keyframes in this one.
import type { Animated, ProjectDocument, Recipe, RecipeId, Shift } from '@mellow/contract';
import { foldNumbers, NEUTRAL_SHIFT, numbersAt } from '@mellow/core';
import type { Change } from '../editing/change.ts';
import type { Draft } from '../view/draftSlice.ts';
import { pieceIn, recipeIn, type Place } from './place.ts';

/** Of a recipe, what its controls change. */
export type RecipeNumbers = Pick<Recipe, 'shift' | 'strength' | 'animated'>;
const numbersOf = (recipe: Recipe | undefined): RecipeNumbers => ({
  shift: recipe?.shift ?? NEUTRAL_SHIFT,
  strength: recipe?.strength ?? 1,
  animated: recipe?.animated ?? {},
});

/** The keyframes of the recipe in the shot in hand. */
export const recipeKeyframes = (document: ProjectDocument, place: Place): Animated | undefined =>
  place.shotId && recipeIn(document, place)?.animated[place.shotId];

/** What the recipe is on this frame of this shot. */
export function recipeOnFrame(document: ProjectDocument, place: Place): { shift: Shift; strength: number } {
  const { shift, strength } = numbersOf(recipeIn(document, place));
  return numbersAt({ shift, strength }, recipeKeyframes(document, place), place.frame);
}

/** The recipe's keyframes with those of the shot in hand replaced; none: they go. */
function withKeyframesHere({ animated }: RecipeNumbers, shotId: string, next: Animated | undefined) {
  const { [shotId]: _old, ...others } = animated as Record<string, Animated>;
  return next && Object.keys(next).length > 0 ? { ...others, [shotId]: next } : others;
}

/** An edit as shown on this frame: numbers with keyframes in this shot change there, the others for all shots. */
function foldedRecipe(
  document: ProjectDocument,
  place: Place,
  changed: Partial<Shift>,
  strength?: number,
): RecipeNumbers {
  const stored = numbersOf(recipeIn(document, place));
  const animated = recipeKeyframes(document, place);
  const shown = { ...recipeOnFrame(document, place), animated };
  const edited = { shift: { ...shown.shift, ...changed }, strength: strength ?? shown.strength, animated };
  const next = foldNumbers({ ...stored, animated }, shown, edited, place.keyframing);
  const kept = place.shotId ? withKeyframesHere(stored, place.shotId, next.animated) : stored.animated;
  return { shift: next.shift, strength: next.strength, animated: kept };
}

function putRecipe(document: ProjectDocument, place: Place, label: string, numbers: RecipeNumbers): Change {
  const { pieceId, colourwayId } = place;
  const piece = pieceIn(document, place);
  if (!pieceId || !colourwayId || !piece) return { label, edits: [] };
  const id = recipeIn(document, place)?.id ?? (crypto.randomUUID() as RecipeId);
  const value: Recipe = { id, projectId: document.project.value.id, pieceId, colourwayId, ...numbers };
  return { label: `${label} of ${piece.name}`, edits: [{ kind: 'recipe', id, value }] };
}
export const changeRecipe = (
  document: ProjectDocument,
  place: Place,
  label: string,
  changed: Partial<Shift>,
  strength?: number,
): Change => putRecipe(document, place, label, foldedRecipe(document, place, changed, strength));

/** Replaces the recipe's keyframes in the shot in hand. */
export function setRecipeKeyframes(document: ProjectDocument, place: Place, label: string, next: Animated): Change {
  const stored = numbersOf(recipeIn(document, place));
  const animated = place.shotId ? withKeyframesHere(stored, place.shotId, next) : stored.animated;
  return putRecipe(document, place, label, { ...stored, animated });
}
/** The piece as it was, in this shot without keyframes; keyframes in other shots stay. */
export function resetRecipe(document: ProjectDocument, place: Place): Change {
  const stored = numbersOf(recipeIn(document, place));
  const animated = place.shotId ? withKeyframesHere(stored, place.shotId, undefined) : stored.animated;
  return putRecipe(document, place, 'Reset the recolour', { shift: NEUTRAL_SHIFT, strength: 1, animated });
}

/** What a hand moves of the recipe, as a draft. */
export function recipeDraft(
  document: ProjectDocument,
  place: Place,
  changed: Partial<Shift>,
  strength?: number,
): Draft | undefined {
  const { pieceId, colourwayId } = place;
  if (!pieceId || !colourwayId) return undefined;
  return { recipe: { pieceId, colourwayId, ...foldedRecipe(document, place, changed, strength) } };
}
