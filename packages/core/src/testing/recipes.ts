import type { Shift } from '../document/recipe.ts';
import { compile, type Program } from '../recolour/program.ts';
import { NEUTRAL_RECIPE, NEUTRAL_SHIFT } from '../recolour/shift.ts';

/** A recipe of a shift and nothing else, compiled. */
export const shiftProgram = (shift: Partial<Shift>, strength = 1): Program =>
  compile({ ...NEUTRAL_RECIPE, shift: { ...NEUTRAL_SHIFT, ...shift }, strength });
