import type { Triple } from './matrix3.ts';
import { FIRST_NM, OBSERVER_1931, POWER, STEP_NM } from './observer.ts';
import type { Illuminant } from './whitePoint.ts';

/** Reflectance of a sample, 0..1 (a fluorescent one may have more), at wavelengths in ascending order, nm. */
export interface Spectrum {
  nm: readonly number[];
  reflectance: readonly number[];
}

/**
 * A table's value at a wavelength, linear between its entries; what a sample was not measured at stays as at its end.
 */
function at(nm: readonly number[], values: readonly number[], wanted: number): number {
  if (wanted <= nm[0]!) return values[0]!;
  const next = nm.findIndex((v) => v >= wanted);
  if (next < 0) return values.at(-1)!;
  const share = (wanted - nm[next - 1]!) / (nm[next]! - nm[next - 1]!);
  return values[next - 1]! + share * (values[next]! - values[next - 1]!);
}

/**
 * XYZ (Y of white = 1) of a sample under an illuminant, for the CIE 1931 2° observer: CIE 15:2018, 7.1, summed over 380
 * to 780 nm in steps of 5 nm, the sample read between its wavelengths.
 */
export function xyzOfSpectrum({ nm, reflectance }: Spectrum, illuminant: Illuminant): [number, number, number] {
  const power = POWER[illuminant];
  const [xBar, yBar, zBar] = OBSERVER_1931;
  let [X, Y, Z, white] = [0, 0, 0, 0];
  power.forEach((p, k) => {
    const light = p * at(nm, reflectance, FIRST_NM + k * STEP_NM);
    X += light * xBar[k]!;
    Y += light * yBar[k]!;
    Z += light * zBar[k]!;
    white += p * yBar[k]!;
  });
  return [X / white, Y / white, Z / white];
}

/** XYZ of the perfect diffuser. */
export const whiteOfSpectrum = (illuminant: Illuminant): Triple =>
  xyzOfSpectrum({ nm: [FIRST_NM], reflectance: [1] }, illuminant);
