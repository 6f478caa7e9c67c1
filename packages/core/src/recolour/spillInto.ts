import { LINEAR_709_FROM_LMS, LMS_FROM_LINEAR_709, LMS_ROOT_FROM_OKLAB } from '../colour/oklab.ts';
import type { LinearPlanes } from '../colour/planes.ts';
import type { SpillMap } from '../matte/spill.ts';

const [TO_LMS, FROM_OKLAB, FROM_LMS] = [LMS_FROM_LINEAR_709, LMS_ROOT_FROM_OKLAB, LINEAR_709_FROM_LMS];

/**
 * Takes the piece's old colour out of its surroundings, in place; pixels whose share is 0 are not read or written.
 *
 * A pixel with share β is taken as β of the piece's colour P over (1 − β) of its surroundings S, in OKLab's a, b: it
 * becomes + β (S − P), lightness kept. What is added to a and b is added to the roots of the cone response, of which
 * they are linear.
 */
export function removeSpillInto({ r, g, b }: LinearPlanes, map: SpillMap, strength: number): void {
  const { share, pieceA, pieceB, surroundA, surroundB } = map;
  for (let i = 0; i < r.length; i++) {
    const part = share[i]! * strength;
    if (part === 0) continue;
    const da = part * (surroundA[i]! - pieceA[i]!);
    const db = part * (surroundB[i]! - pieceB[i]!);
    const R = r[i]!;
    const G = g[i]!;
    const B = b[i]!;
    const l = Math.cbrt(TO_LMS[0] * R + TO_LMS[1] * G + TO_LMS[2] * B) + FROM_OKLAB[1] * da + FROM_OKLAB[2] * db;
    const m = Math.cbrt(TO_LMS[3] * R + TO_LMS[4] * G + TO_LMS[5] * B) + FROM_OKLAB[4] * da + FROM_OKLAB[5] * db;
    const s = Math.cbrt(TO_LMS[6] * R + TO_LMS[7] * G + TO_LMS[8] * B) + FROM_OKLAB[7] * da + FROM_OKLAB[8] * db;
    const l3 = l * l * l;
    const m3 = m * m * m;
    const s3 = s * s * s;
    r[i] = FROM_LMS[0] * l3 + FROM_LMS[1] * m3 + FROM_LMS[2] * s3;
    g[i] = FROM_LMS[3] * l3 + FROM_LMS[4] * m3 + FROM_LMS[5] * s3;
    b[i] = FROM_LMS[6] * l3 + FROM_LMS[7] * m3 + FROM_LMS[8] * s3;
  }
}
