// Figures of a frame that are told beside it, and looks: apart, so that the worker loads them when they are asked for.
export {
  clippingOf,
  colourDensity,
  meanOfRect,
  meterMatte,
  partsThatHold,
  pickedSamples,
  probePixel,
  scopeOf,
  strokeLooks,
  textureFigures,
  throughLook,
} from '@mellow/core';
