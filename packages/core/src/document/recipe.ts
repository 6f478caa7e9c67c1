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

/** Factors > 0 on the cone response to long, middle and short waves (CAT16), in linear light; 1 changes nothing. */
export interface Gain {
  long: number;
  middle: number;
  short: number;
}

/** What becomes of a piece's colour, as it is stored and animated. */
export interface RecipeNumbers {
  /** What takes the measured colour to the required one, before the shift. */
  match: Gain;
  shift: Shift;
  /** 0..1 on the whole recolour. */
  strength: number;
}

/** What is laid on top of a recipe in one shot. */
export interface Trim {
  gain: Gain;
  shift: Shift;
}
