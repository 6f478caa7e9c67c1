import { NEUTRAL_FINER } from './neutralFiner.ts';
import type { Gain, RecipeNumbers, Repaint, Shift, Trim } from '../document/recipe.ts';

export const NEUTRAL_SHIFT: Shift = { exposureStops: 0, hueDeg: 0, saturation: 1, density: 0 };

export const NEUTRAL_GAIN: Gain = { long: 1, middle: 1, short: 1 };
export const NEUTRAL_TRIM: Trim = { gain: NEUTRAL_GAIN, shift: NEUTRAL_SHIFT };
/** A recipe that changes nothing. */
export const NO_REPAINT: Repaint = { on: false, sheen: 1 };
export const NEUTRAL_RECIPE: RecipeNumbers = {
  match: NEUTRAL_GAIN,
  repaint: NO_REPAINT,
  shift: NEUTRAL_SHIFT,
  finer: NEUTRAL_FINER,
  strength: 1,
};

export const isNeutralGain = ({ long, middle, short }: Gain): boolean => long === 1 && middle === 1 && short === 1;
export const isNeutral = (s: Shift): boolean =>
  s.exposureStops === 0 && s.hueDeg % 360 === 0 && s.saturation === 1 && s.density === 0;

/** Factor on linear light for an added optical density (ISO 5-1). */
export const gainFromDensity = (density: number): number => 10 ** -density;
/** Factor on linear light for an exposure change in stops. */
export const gainFromStops = (stops: number): number => 2 ** stops;

/** One shift on top of another, as one: stops, turns and densities add, factors multiply. */
export const combinedShift = (a: Shift, b: Shift): Shift => ({
  exposureStops: a.exposureStops + b.exposureStops,
  hueDeg: a.hueDeg + b.hueDeg,
  saturation: a.saturation * b.saturation,
  density: a.density + b.density,
});
