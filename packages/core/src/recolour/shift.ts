import { linear709FromOklab, oklabFromLinear709 } from '../colour/oklab.ts';
import type { Triple } from '../colour/matrix3.ts';

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

/** The recolour of one colour in linear BT.709 light; may leave the gamut, nothing is clamped. */
export function shifted(shift: Shift, [r, g, b]: Triple): [number, number, number] {
  const exposure = gainFromStops(shift.exposureStops);
  const { L, a, b: bb } = oklabFromLinear709([r * exposure, g * exposure, b * exposure]);
  const turn = (shift.hueDeg * Math.PI) / 180;
  const cos = Math.cos(turn) * shift.saturation;
  const sin = Math.sin(turn) * shift.saturation;
  const moved = linear709FromOklab({ L, a: a * cos - bb * sin, b: a * sin + bb * cos });
  const gain = gainFromDensity(shift.density);
  return [moved[0] * gain, moved[1] * gain, moved[2] * gain];
}
