import type { Encoding } from '../colour/encoding.ts';
import type { Animated } from '../document/animation.ts';
import type { RecipeNumbers, SheenBody, Trim } from '../document/recipe.ts';
import type { SightingRender } from '../pipeline/sightingRender.ts';
import { compile, type Light } from '../recolour/program.ts';
import { carriedThere, placeOf, type Motions } from './place.ts';
import { layerAt } from './layerAt.ts';
import { numbersAt } from './numbers.ts';

/** A sighting through time: its matte, its recipe in the shot's light with its trim, and the keyframes of both. */
export interface AnimatedSighting extends Omit<SightingRender, 'program'>, RecipeNumbers {
  /** Left out: the reference shot's. */
  light?: Light | undefined;
  trim?: Trim | undefined;
  body?: SheenBody | undefined;
  /** The shot's, where a guard keeps to its gamut. */
  encoding?: Encoding | undefined;
  animated?: Animated | undefined;
}

/** The sighting as it is on one frame. */
export function sightingAt(
  { animated, ...sighting }: AnimatedSighting,
  frame: number,
  motions: Motions,
): SightingRender {
  const { light, trim, body, encoding, match, repaint, shift, finer, strength, ...now } = numbersAt(
    sighting,
    animated,
    frame,
  );
  const within = now.spill?.within;
  const spill = within?.follow
    ? {
        ...now.spill!,
        within: {
          feather: within.feather,
          geometry: carriedThere(within.geometry, placeOf({ follow: within.follow }, frame, motions)),
        },
      }
    : now.spill;
  const program = compile({ match, repaint, shift, finer, strength }, light, trim, body, encoding);
  return { ...now, program, spill, layers: sighting.layers.map((l) => layerAt(l, frame, motions)) };
}
