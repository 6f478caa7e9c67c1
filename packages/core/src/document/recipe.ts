import type { Finer } from './finer.ts';

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

/** Sheen is told apart from the body and not recoloured with it. */
export interface Repaint {
  on: boolean;
  /** Factor on the sheen that is put back, 0..2: 1 leaves it as it was, 0 makes the piece matt. */
  sheen: number;
}

/** What becomes of a piece's colour, as it is stored and animated. */
export interface RecipeNumbers {
  repaint: Repaint;
  /** What takes the measured colour to the required one, before the shift. */
  match: Gain;
  shift: Shift;
  finer: Finer;
  /** 0..1 on the whole recolour. */
  strength: number;
}

/** What tells sheen from body in a piece in one shot; see core/recolour/sheen. */
export interface SheenBody {
  /**
   * The invariant of the body's colour, and which way sheen moves a pixel from it: I rises (−1: falls) as it is taken.
   */
  invariant: number;
  direction: 1 | -1;
  /** 0..1: how surely sheen can be told in a piece of this colour. */
  confidence: number;
  /** White under the piece's light, linear BT.709 of luminance 1, and the slope of lights near it. */
  light: [number, number, number];
  slope: number;
}

/** What is laid on top of a recipe in one shot. */
export interface Trim {
  gain: Gain;
  shift: Shift;
}
