import { solveInPlace } from '../track/linear.ts';
import type { Triple } from './matrix3.ts';
import { xyzOfSpectrum, type Spectrum } from './spectrum.ts';
import type { Illuminant } from './whitePoint.ts';

/** 380..730 nm by ten, as hand-held spectrophotometers measure (ISO 13655). */
const NM = Array.from({ length: 36 }, (_, i) => 380 + 10 * i);
const N = NM.length;
const ROUNDS = 60;
const CLOSE = 1e-9;

/** XYZ that each band gives by itself at full reflectance: summing is linear. */
function weights(illuminant: Illuminant): Triple[] {
  return NM.map((_, k) => xyzOfSpectrum({ nm: NM, reflectance: NM.map((_nm, i) => (i === k ? 1 : 0)) }, illuminant));
}

/**
 * The smoothest reflectance between 0 and 1 that looks like XYZ (Y of white = 1) under an illuminant: least slopes of
 * z with ρ = (tanh z + 1) / 2, by Newton's method on Lagrange's conditions. S. A. Burns, "Numerical methods for
 * smoothest reflectance reconstruction" (Color Research & Application 45, 2020).
 *
 * Throws RangeError for what no reflectance between 0 and 1 looks like.
 */
export function smoothestReflectance(xyz: Triple, illuminant: Illuminant): Spectrum {
  const T = weights(illuminant);
  const z = new Float64Array(N);
  const lambda = new Float64Array(3);
  const size = N + 3;
  for (let round = 0; round < ROUNDS; round++) {
    const rho = z.map((v) => (Math.tanh(v) + 1) / 2);
    const slope = z.map((v) => 0.5 / Math.cosh(v) ** 2);
    const bend = z.map((v, i) => -2 * slope[i]! * Math.tanh(v));
    const a = new Float64Array(size * size);
    const b = new Float64Array(size);
    for (let i = 0; i < N; i++) {
      // D'D of first differences, doubled
      const ends = (i > 0 ? 1 : 0) + (i < N - 1 ? 1 : 0);
      const pull = T[i]![0] * lambda[0]! + T[i]![1] * lambda[1]! + T[i]![2] * lambda[2]!;
      a[i * size + i] = 2 * ends + bend[i]! * pull;
      let gradient = 2 * ends * z[i]! + slope[i]! * pull;
      for (const j of [i - 1, i + 1])
        if (j >= 0 && j < N) {
          a[i * size + j] = -2;
          gradient -= 2 * z[j]!;
        }
      b[i] = -gradient;
      for (let c = 0; c < 3; c++) a[i * size + N + c] = a[(N + c) * size + i] = slope[i]! * T[i]![c]!;
    }
    let off = 0;
    for (let c = 0; c < 3; c++) {
      const now = rho.reduce((sum, r, i) => sum + r * T[i]![c]!, 0);
      b[N + c] = xyz[c]! - now;
      off = Math.max(off, Math.abs(xyz[c]! - now));
    }
    if (off < CLOSE && round > 0) return { nm: NM, reflectance: [...rho] };
    if (!solveInPlace(a, b, size)) break;
    for (let i = 0; i < N; i++) z[i] = z[i]! + Math.min(Math.max(b[i]!, -2), 2);
    for (let c = 0; c < 3; c++) lambda[c] = lambda[c]! + b[N + c]!;
  }
  throw new RangeError(`no reflectance between 0 and 1 looks like X ${xyz[0]}, Y ${xyz[1]}, Z ${xyz[2]}`);
}
