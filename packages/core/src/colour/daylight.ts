/**
 * Chromaticity of a CIE daylight of a correlated colour temperature, 4,000..25,000 K.
 * CIE 15:2018, 4.1.2, equations 4.6–4.8 (x_D as a cubic in 1/T, y_D as a quadratic in x_D). Throws RangeError outside.
 */
export function daylightChromaticity(kelvin: number): [number, number] {
  if (!(kelvin >= 4000 && kelvin <= 25_000))
    throw new RangeError(`${kelvin} K is outside the daylight locus, 4000..25000 K`);
  const t = 1000 / kelvin;
  const x =
    kelvin <= 7000
      ? -4.607 * t ** 3 + 2.9678 * t ** 2 + 0.09911 * t + 0.244063
      : -2.0064 * t ** 3 + 1.9018 * t ** 2 + 0.24748 * t + 0.23704;
  return [x, -3 * x * x + 2.87 * x - 0.275];
}
