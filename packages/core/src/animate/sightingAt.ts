import type { SightingRender } from '../pipeline/renderFrame.ts';
import { layerAt, type Motions } from './layerAt.ts';
import { numbersAt, type Animated } from './numbers.ts';

/** A sighting through time: what the renderer takes, with the keyframes of its clean-up, spill, shift and strength. */
export interface AnimatedSighting extends SightingRender {
  animated?: Animated | undefined;
}

/** The sighting as it is on one frame. */
export function sightingAt({ animated, ...sighting }: AnimatedSighting, frame: number, motions: Motions): SightingRender {
  return { ...numbersAt(sighting, animated, frame), layers: sighting.layers.map((l) => layerAt(l, frame, motions)) };
}
