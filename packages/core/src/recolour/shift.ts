/** A recolour by hand, in the order it is applied. */
export interface Shift {
  /** Stops: linear light × 2^exposureStops. */
  exposureStops: number;
  /** Turn of the OKLCh hue, degrees, unbounded. */
  hueDeg: number;
  /** Factor on OKLCh chroma, ≥ 0; 1 changes nothing. */
  saturation: number;
  /** Optical density added, D = −log10 of transmission (ISO 5-1): linear × 10^−density; +0.30 is one stop darker. */
  density: number;
}

export const NEUTRAL_SHIFT: Shift = { exposureStops: 0, hueDeg: 0, saturation: 1, density: 0 };

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
