import { linear709FromOklab, oklabFromLinear709 } from '../colour/oklab.ts';
import type { Spill, SpillMap } from '../matte/spill.ts';
import type { LinearPlanes } from './recolourInto.ts';
import { gainFromDensity, gainFromStops, type Shift } from './shift.ts';

/**
 * Recolours the spill in a picture, in place; pixels whose share is 0 are not read or written.
 *
 * A pixel with share β is taken as β of the piece's colour P over (1 − β) of its surroundings S, in OKLab's a, b.
 * *Follow* exchanges the part that is the piece's: + β (F(P) − P), with F the recolour; lightness goes along by the same
 * proportion of the recolour's gain. *Remove* takes it out: + β (S − P), lightness kept. Rotating the whole pixel by β
 * of the hue move would leave (1 − β) of the old colour standing on a neutral floor.
 */
export function spillInto(
  { r, g, b }: LinearPlanes,
  map: SpillMap,
  mode: Exclude<Spill['mode'], 'off'>,
  shift: Shift,
  strength: number,
): void {
  const turn = (shift.hueDeg * Math.PI) / 180;
  // a gain on light is its cube root on all three of L, a, b
  const gain = Math.cbrt(gainFromStops(shift.exposureStops) * gainFromDensity(shift.density));
  const cos = Math.cos(turn) * shift.saturation * gain;
  const sin = Math.sin(turn) * shift.saturation * gain;
  for (let i = 0; i < r.length; i++) {
    const share = map.share[i]! * strength;
    if (share === 0) continue;
    const lab = oklabFromLinear709([r[i]!, g[i]!, b[i]!]);
    const [pa, pb] = [map.pieceA[i]!, map.pieceB[i]!];
    if (mode === 'follow') {
      lab.a += share * (pa * cos - pb * sin - pa);
      lab.b += share * (pa * sin + pb * cos - pb);
      lab.L *= 1 + share * (gain - 1);
    } else {
      lab.a += share * (map.surroundA[i]! - pa);
      lab.b += share * (map.surroundB[i]! - pb);
    }
    [r[i], g[i], b[i]] = linear709FromOklab(lab);
  }
}
