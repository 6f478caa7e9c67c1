import type { Shift } from '../document/recipe.ts';
import type { Triple } from '../colour/matrix3.ts';
import { linear709FromOklab, oklabFromLinear709 } from '../colour/oklab.ts';

/** A shift written out as it is defined, in the order it is applied: what compiled programs are held to. */
export function shifted(shift: Shift, [r, g, b]: Triple): [number, number, number] {
  const exposure = 2 ** shift.exposureStops;
  const { L, a, b: bb } = oklabFromLinear709([r * exposure, g * exposure, b * exposure]);
  const turn = (shift.hueDeg * Math.PI) / 180;
  const cos = Math.cos(turn) * shift.saturation;
  const sin = Math.sin(turn) * shift.saturation;
  const moved = linear709FromOklab({ L, a: a * cos - bb * sin, b: a * sin + bb * cos });
  const transmission = 10 ** -shift.density;
  return [moved[0] * transmission, moved[1] * transmission, moved[2] * transmission];
}
