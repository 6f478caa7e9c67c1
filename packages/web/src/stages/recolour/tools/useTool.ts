import { NEUTRAL_FINER, type Finer, type FinerTool } from '@mellow/core';
import type { Phase } from '../../../editing/drag.ts';
import type { RecipeInHand } from '../useRecipe.ts';

/** One finer tool of the recipe in hand: its numbers on this frame, and what a hand does to them. */
export interface ToolInHand<K extends FinerTool> {
  value: Finer[K];
  neutral: Finer[K];
  /** `what`: what the history calls it. A tool that is set to something is on. */
  set: (numbers: Partial<Finer[K]>, phase: Phase, what?: string) => void;
  turn: (on: boolean) => void;
  reset: () => void;
}

export const TOOL_NAMES: Record<FinerTool, string> = {
  primaries: 'Primaries',
  bands: 'Hue bands',
  bend: 'Bend',
  dye: 'Dye',
  tone: 'Tone curve',
  channels: 'Channel curves',
  texture: 'Texture',
  guard: 'Gamut guard',
  outside: 'Outside',
};

export function toolInHand<K extends FinerTool>(recipe: RecipeInHand, name: K): ToolInHand<K> {
  const move = (numbers: Partial<Finer[K]>, phase: Phase, what?: string) =>
    recipe.move({ finer: { [name]: numbers } }, phase, what);
  return {
    value: recipe.finer[name],
    neutral: NEUTRAL_FINER[name],
    set: (numbers, phase, what) => move({ ...numbers, on: true }, phase, what ?? TOOL_NAMES[name]),
    turn: (on) => move({ on } as Partial<Finer[K]>, 'done', `${TOOL_NAMES[name]} ${on ? 'on' : 'off'}`),
    reset: () => recipe.resetTool(name, `Reset ${TOOL_NAMES[name].toLowerCase()}`),
  };
}
