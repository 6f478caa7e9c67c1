import type { Animated } from '../document/animation.ts';
import type { SightingRender } from '../pipeline/renderFrame.ts';
import { carriedThere, placeOf, type Motions } from './place.ts';
import { layerAt } from './layerAt.ts';
import { numbersAt } from './numbers.ts';

/** A sighting through time: what the renderer takes, with the keyframes of its clean-up, spill, shift and strength. */
export interface AnimatedSighting extends SightingRender {
  animated?: Animated | undefined;
}

/** The sighting as it is on one frame. */
export function sightingAt(
  { animated, ...sighting }: AnimatedSighting,
  frame: number,
  motions: Motions,
): SightingRender {
  const now = numbersAt(sighting, animated, frame);
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
  return { ...now, spill, layers: sighting.layers.map((l) => layerAt(l, frame, motions)) };
}
