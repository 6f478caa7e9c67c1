import { NEUTRAL_RECIPE, type AnimatedSighting, type Geometry } from '@mellow/core';
import { PLAIN_LAYER } from '../../../core/src/testing/layers.ts';

/** A sighting whose matte is a shape with a hard edge; nothing is recoloured. */
export const isolated = (geometry: Geometry): AnimatedSighting => ({
  ...NEUTRAL_RECIPE,
  layers: [{ ...PLAIN_LAYER, kind: 'shape', geometry, feather: { innerPx: 0, outerPx: 0, falloff: 'linear' } }],
});
