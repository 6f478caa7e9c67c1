import type { Spill } from '../document/cleaning.ts';
import { linear709FromOklab, oklabFromLinear709 } from '../colour/oklab.ts';
import type { LinearPlanes } from '../colour/planes.ts';
import type { SpillMap } from '../matte/spill.ts';
import { recolouredOklab, type Program } from './program.ts';

/**
 * Recolours the spill in a picture, in place; pixels whose share is 0 are not read or written.
 *
 * A pixel with share β is taken as β of the piece's colour P over (1 − β) of its surroundings S, in OKLab's a, b.
 * *Follow* exchanges the part that is the piece's: + β (F(P) − P), with F the recolour, at the pixel's own lightness;
 * lightness goes along by the same proportion. *Remove* takes it out: + β (S − P), lightness kept. Rotating the whole
 * pixel by β of the hue move would leave (1 − β) of the old colour standing on a neutral floor.
 */
export function spillInto(
  { r, g, b }: LinearPlanes,
  map: SpillMap,
  mode: Exclude<Spill['mode'], 'off'>,
  program: Program,
): void {
  for (let i = 0; i < r.length; i++) {
    const share = map.share[i]! * program.strength;
    if (share === 0) continue;
    const lab = oklabFromLinear709([r[i]!, g[i]!, b[i]!]);
    const piece = { L: lab.L, a: map.pieceA[i]!, b: map.pieceB[i]! };
    const next = mode === 'follow' ? recolouredOklab(program, piece) : surroundingsAt(map, i, lab.L);
    lab.L += share * (next.L - piece.L);
    lab.a += share * (next.a - piece.a);
    lab.b += share * (next.b - piece.b);
    [r[i], g[i], b[i]] = linear709FromOklab(lab);
  }
}

const surroundingsAt = (map: SpillMap, i: number, L: number) => ({ L, a: map.surroundA[i]!, b: map.surroundB[i]! });
