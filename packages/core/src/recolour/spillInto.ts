import { linear709FromOklab, oklabFromLinear709 } from '../colour/oklab.ts';
import type { LinearPlanes } from '../colour/planes.ts';
import type { SpillMap } from '../matte/spill.ts';

/**
 * Takes the piece's old colour out of its surroundings, in place; pixels whose share is 0 are not read or written.
 *
 * A pixel with share β is taken as β of the piece's colour P over (1 − β) of its surroundings S, in OKLab's a, b: it
 * becomes + β (S − P), lightness kept.
 */
export function removeSpillInto({ r, g, b }: LinearPlanes, map: SpillMap, strength: number): void {
  for (let i = 0; i < r.length; i++) {
    const share = map.share[i]! * strength;
    if (share === 0) continue;
    const lab = oklabFromLinear709([r[i]!, g[i]!, b[i]!]);
    lab.a += share * (map.surroundA[i]! - map.pieceA[i]!);
    lab.b += share * (map.surroundB[i]! - map.pieceB[i]!);
    [r[i], g[i], b[i]] = linear709FromOklab(lab);
  }
}
