import { useMemo } from 'react';
import type { Animated } from '@mellow/contract';
import type { FinerTool, NumberKeyframe } from '@mellow/core';
import * as commands from '../../commands/recipe.ts';
import { followHand, type Moved, type Phase } from '../../editing/drag.ts';
import { documentOf, edit } from '../../editing/editing.ts';
import type { InHand } from '../../inhand/inHand.ts';
import { usePlace } from '../../inhand/useInHand.ts';
import { keyframingOf } from '../../keyframing/keyframingOf.ts';
import { nameInWords } from '../../keyframing/names.ts';
import type { Lane } from '../../viewer/lanes.ts';

/** The recipe in hand as its controls show it on this frame, and the commands on it bound to where they act. */
export function useRecipe(inHand: InHand) {
  const { document, piece, recipe, shot } = inHand;
  const place = usePlace(inHand);
  const projectId = document.project.value.id;
  const animated = commands.recipeKeyframes(document, place);
  const numbers = useMemo(() => commands.recipeOnFrame(document, place), [document, place]);
  const moved: Moved<commands.RecipeStep> = {
    draft: (now, step) => commands.recipeDraft(now, place, step),
    change: (now, step, what) => commands.changeRecipe(now, place, what, step),
  };
  const move = (step: commands.RecipeStep, phase: Phase, what?: string) =>
    followHand(projectId, moved, step, phase, what);
  const putKeyframes = (label: string, next: Animated) =>
    edit(projectId, commands.setRecipeKeyframes(documentOf(projectId) ?? document, place, label, next));
  const lanes = Object.entries(animated ?? {}).map(([name, keys]): Lane => {
    const { [name]: _own, ...rest } = animated!;
    return {
      id: `recipe ${name}`,
      label: `${piece?.name ?? ''}: ${nameInWords(name).replace(/^(shift|finer) /, '')}`,
      keys,
      put: (step, next) => putKeyframes(step, next.length > 0 ? { ...rest, [name]: next as NumberKeyframe[] } : rest),
    };
  });
  return {
    ...numbers,
    isSet: recipe !== undefined,
    move,
    reset: () => edit(projectId, commands.resetRecipe(documentOf(projectId) ?? document, place)),
    resetTool: (name: FinerTool, label: string) =>
      edit(projectId, commands.resetTool(documentOf(projectId) ?? document, place, name, label)),
    lanes,
    keyframing: shot ? keyframingOf(numbers, animated, place.frame, place.keyframing.ease, putKeyframes) : null,
  };
}
export type RecipeInHand = ReturnType<typeof useRecipe>;
