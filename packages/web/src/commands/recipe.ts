// Edits of a recipe: how a piece is recoloured in one colourway, on all shots but for keyframes in this one.
import type { Animated, ProjectDocument, Recipe, RecipeId } from '@mellow/contract';
import {
  foldNumbers,
  NEUTRAL_FINER,
  NEUTRAL_RECIPE,
  numbersAt,
  type Finer,
  type RecipeNumbers,
  type FinerTool,
} from '@mellow/core';
import type { Change } from '../editing/change.ts';
import type { Draft } from '../view/draftSlice.ts';
import { pieceIn, recipeIn, type Place } from './place.ts';

/** What of a recipe a control sets: whole numbers, or some of a group. */
export interface RecipeStep {
  match?: Partial<RecipeNumbers['match']>;
  repaint?: Partial<RecipeNumbers['repaint']>;
  shift?: Partial<RecipeNumbers['shift']>;
  /** Whole tools, or some numbers of one. */
  finer?: { [K in FinerTool]?: Partial<Finer[K]> };
  strength?: number;
}
/** Of a recipe, what its controls change. */
type StoredNumbers = RecipeNumbers & Pick<Recipe, 'animated'>;
const numbersOf = (recipe: Recipe | undefined): StoredNumbers => ({
  match: recipe?.match ?? NEUTRAL_RECIPE.match,
  repaint: recipe?.repaint ?? NEUTRAL_RECIPE.repaint,
  shift: recipe?.shift ?? NEUTRAL_RECIPE.shift,
  finer: recipe?.finer ?? NEUTRAL_RECIPE.finer,
  strength: recipe?.strength ?? 1,
  animated: recipe?.animated ?? {},
});

/** The keyframes of the recipe in the shot in hand. */
export const recipeKeyframes = (document: ProjectDocument, place: Place): Animated | undefined =>
  place.shotId && recipeIn(document, place)?.animated[place.shotId];

/** What the recipe is on this frame of this shot. */
export function recipeOnFrame(document: ProjectDocument, place: Place): RecipeNumbers {
  const { animated: _animated, ...numbers } = numbersOf(recipeIn(document, place));
  return numbersAt(numbers, recipeKeyframes(document, place), place.frame);
}

/** The recipe's keyframes with those of the shot in hand replaced; none: they go. */
function withKeyframesHere(
  { animated }: StoredNumbers,
  shotId: string,
  next: Animated | undefined,
): Recipe['animated'] {
  const { [shotId]: _old, ...others } = animated as Record<string, Animated>;
  return next && Object.keys(next).length > 0 ? { ...others, [shotId]: next } : others;
}

function withTools(finer: Finer, step: RecipeStep['finer'] = {}): Finer {
  const changed = Object.entries(step).map(([name, numbers]) => [name, { ...finer[name as FinerTool], ...numbers }]);
  return { ...finer, ...Object.fromEntries(changed) } as Finer;
}

/** An edit as shown on this frame: numbers with keyframes in this shot change there, the others for all shots. */
function foldedRecipe(document: ProjectDocument, place: Place, step: RecipeStep): StoredNumbers {
  const stored = numbersOf(recipeIn(document, place));
  const animated = recipeKeyframes(document, place);
  const shown = { ...recipeOnFrame(document, place), animated };
  const edited = {
    match: { ...shown.match, ...step.match },
    repaint: { ...shown.repaint, ...step.repaint },
    shift: { ...shown.shift, ...step.shift },
    finer: withTools(shown.finer, step.finer),
    strength: step.strength ?? shown.strength,
    animated,
  };
  const { animated: here, ...next } = foldNumbers({ ...stored, animated }, shown, edited, place.keyframing);
  return { ...next, animated: place.shotId ? withKeyframesHere(stored, place.shotId, here) : stored.animated };
}

function putRecipe(document: ProjectDocument, place: Place, label: string, numbers: StoredNumbers): Change {
  const { pieceId, colourwayId } = place;
  const piece = pieceIn(document, place);
  if (!pieceId || !colourwayId || !piece) return { label, edits: [] };
  const id = recipeIn(document, place)?.id ?? (crypto.randomUUID() as RecipeId);
  const value: Recipe = { id, projectId: document.project.value.id, pieceId, colourwayId, ...numbers };
  return { label: `${label} of ${piece.name}`, edits: [{ kind: 'recipe', id, value }] };
}
/** The recipe's numbers as they are given, in this shot without keyframes. */
export function putNumbers(document: ProjectDocument, place: Place, label: string, numbers: RecipeNumbers): Change {
  const stored = numbersOf(recipeIn(document, place));
  const animated = place.shotId ? withKeyframesHere(stored, place.shotId, undefined) : stored.animated;
  return putRecipe(document, place, label, { ...numbers, animated });
}
export const changeRecipe = (document: ProjectDocument, place: Place, label: string, step: RecipeStep): Change =>
  putRecipe(document, place, label, foldedRecipe(document, place, step));

/** Replaces the recipe's keyframes in the shot in hand. */
export function setRecipeKeyframes(document: ProjectDocument, place: Place, label: string, next: Animated): Change {
  const stored = numbersOf(recipeIn(document, place));
  const animated = place.shotId ? withKeyframesHere(stored, place.shotId, next) : stored.animated;
  return putRecipe(document, place, label, { ...stored, animated });
}
/** The piece as it was, in this shot without keyframes; keyframes in other shots stay. */
export function resetRecipe(document: ProjectDocument, place: Place): Change {
  return putNumbers(document, place, 'Reset the recolour', NEUTRAL_RECIPE);
}

/** One finer tool as it was, in this shot without keyframes. */
export function resetTool(document: ProjectDocument, place: Place, name: FinerTool, label: string): Change {
  const stored = numbersOf(recipeIn(document, place));
  const kept = Object.entries(recipeKeyframes(document, place) ?? {}).filter(
    ([number]) => !number.startsWith(`finer.${name}.`),
  );
  return putRecipe(document, place, label, {
    ...stored,
    finer: { ...stored.finer, [name]: NEUTRAL_FINER[name] },
    animated: place.shotId ? withKeyframesHere(stored, place.shotId, Object.fromEntries(kept)) : stored.animated,
  });
}

/** What a hand moves of the recipe, as a draft. */
export function recipeDraft(document: ProjectDocument, place: Place, step: RecipeStep): Draft | undefined {
  const { pieceId, colourwayId } = place;
  if (!pieceId || !colourwayId) return undefined;
  return { recipe: { pieceId, colourwayId, ...foldedRecipe(document, place, step) } };
}
