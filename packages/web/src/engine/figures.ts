// Figures of a frame that are drawn beside it: apart, so that the worker loads them when they are asked for.
export { colourDensity, scopeOf, textureFigures } from '@mellow/core';
