import type { Triple } from './matrix3.ts';
import { linear709FromXyz, xyzFromChromaticity, xyzFromLinear709 } from './xyz.ts';

/**
 * Chromaticity of a black body, 1,667 to 25,000 K: B. Kang et al., "Design of advanced color temperature control system
 * for HDTV applications" (J. Korean Phys. Soc. 41, 2002), the cubic splines.
 */
export function planckianChromaticity(kelvin: number): [number, number] {
  const T = Math.min(Math.max(kelvin, 1667), 25_000);
  const x =
    T < 4000
      ? -0.2661239e9 / T ** 3 - 0.2343589e6 / T ** 2 + 0.8776956e3 / T + 0.17991
      : -3.0258469e9 / T ** 3 + 2.1070379e6 / T ** 2 + 0.2226347e3 / T + 0.24039;
  const cubic = (a: number, b: number, c: number, d: number) => a * x ** 3 + b * x ** 2 + c * x + d;
  if (T < 2222) return [x, cubic(-1.1063814, -1.3481102, 2.18555832, -0.20219683)];
  if (T < 4000) return [x, cubic(-0.9549476, -1.37418593, 2.09137015, -0.16748867)];
  return [x, cubic(3.081758, -5.8733867, 3.75112997, -0.37001483)];
}

/**
 * Correlated colour temperature, kelvin: C. S. McCamy, "Correlated color temperature as an explicit function" (1992).
 */
export function correlatedKelvin(rgb: Triple): number {
  const [X, Y, Z] = xyzFromLinear709(rgb);
  const n = (X / (X + Y + Z) - 0.332) / (0.1858 - Y / (X + Y + Z));
  return 449 * n ** 3 + 3525 * n ** 2 + 6823.3 * n + 5520.33;
}

/**
 * How the log chromaticities of black bodies move near a light's temperature, in linear BT.709: −Δln(B/G) for each
 * Δln(R/G).
 */
export function planckianSlope(light: Triple): number {
  const T = Math.min(Math.max(correlatedKelvin(light), 1900), 20_000);
  const at = (kelvin: number) => {
    const [r, g, b] = linear709FromXyz(xyzFromChromaticity(planckianChromaticity(kelvin)));
    return [Math.log(r / g), Math.log(b / g)] as const;
  };
  const [warm, cool] = [at(T * 0.97), at(T * 1.03)];
  return -(cool[1] - warm[1]) / (cool[0] - warm[0]);
}
