import { cat16FromLinear709, gainMatrix } from '../colour/cat16.ts';
import { labFromLinear709, linear709FromLab, type Lab } from '../colour/lab.ts';
import { IDENTITY, inverse, multiply, scaled, transform, type Matrix3, type Triple } from '../colour/matrix3.ts';
import { correlatedKelvin } from '../colour/planckian.ts';
import { luminanceOf } from '../colour/xyz.ts';
import { solveInPlace } from '../track/linear.ts';

// A shot's light as it differs from the reference shot's: the 3×3 on linear BT.709 that takes what the reference shot
// shows of a thing to what this shot shows of it.

/**
 * From one thing seen in both shots: a grey card, or the piece itself in its old colour. Von Kries's ratio of cone
 * responses in CAT16, exposure included. Throws RangeError for a colour without light.
 */
export function lightBetween(reference: Triple, here: Triple): Matrix3 {
  const [from, to] = [cat16FromLinear709(reference), cat16FromLinear709(here)];
  if (![...from, ...to].every((v) => v > 1e-6)) throw new RangeError('a light needs colours that reflect all of it');
  return gainMatrix([to[0] / from[0], to[1] / from[1], to[2] / from[2]]);
}

/** The colour of the light from a neutral, its strength from the piece: a card seldom lies where the piece does. */
export function lightOfBoth(
  neutral: { reference: Triple; here: Triple },
  probe: { reference: Triple; here: Triple },
): Matrix3 {
  const colour = lightBetween(neutral.reference, neutral.here);
  return scaled(colour, luminanceOf(probe.here) / luminanceOf(transform(colour, probe.reference)));
}

/**
 * From three patches or more, seen in both shots: the 3×3 that fits them best, each weighed by its lightness so that
 * dark ones count as much as light ones. Throws RangeError for fewer than three, or patches of too few colours.
 */
export function lightOfPatches(pairs: readonly { reference: Triple; here: Triple }[]): Matrix3 {
  if (pairs.length < 3) throw new RangeError('a light needs three patches at least');
  const rows = [0, 1, 2].map((row) => {
    const [a, b] = [new Float64Array(9), new Float64Array(3)];
    for (const { reference, here } of pairs) {
      const w = 1 / Math.max(luminanceOf(reference), 0.01) ** 2;
      for (let i = 0; i < 3; i++) {
        b[i] = b[i]! + w * reference[i]! * here[row]!;
        for (let j = 0; j < 3; j++) a[3 * i + j] = a[3 * i + j]! + w * reference[i]! * reference[j]!;
      }
    }
    if (!solveInPlace(a, b, 3)) throw new RangeError('the patches are too much alike');
    return [...b];
  });
  return rows.flat() as unknown as Matrix3;
}

/** A shot's light against another reference shot, whose own light against the old one is known. */
export const rebasedLight = (light: Matrix3 | undefined, newReference: Matrix3): Matrix3 =>
  multiply(light ?? IDENTITY, inverse(newReference));

/** A colour of this shot as it would be in the reference shot. */
export const inReferenceLight = (light: Matrix3 | undefined, rgb: Triple): [number, number, number] =>
  light ? transform(inverse(light), rgb) : [...rgb];

/** A colour of the reference shot as it should be seen in this shot. */
export const inShotLight = (light: Matrix3 | undefined, lab: Lab): Lab =>
  light ? labFromLinear709(transform(light, linear709FromLab(lab))) : lab;

/** Mired of D65, 6504 K. */
const D65_MIRED = 1e6 / 6504;
/** How a light differs: mired warmer (+) or cooler (−), and stops lighter (+) or darker (−), of what was white. */
export function lightInWords(light: Matrix3): { warmerMired: number; lighterStops: number } {
  const white = transform(light, [1, 1, 1]);
  return { warmerMired: 1e6 / correlatedKelvin(white) - D65_MIRED, lighterStops: Math.log2(luminanceOf(white)) };
}
