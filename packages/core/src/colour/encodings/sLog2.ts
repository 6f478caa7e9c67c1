import { logWithToe } from '../logWithToe.ts';
import { sLog3Wide } from './sLog3Wide.ts';
import type { EncodingRecord } from './record.ts';

/** Its signal is of ten bits of limited range, over light of which 0.9 is white. */
const [BLACK, SPAN, LAST] = [64, 876, 1023];
const LIGHT = 155 / 219 / 0.9;
/**
 * S-Log2 over scene reflectance, in S-Gamut, whose primaries are those of S-Gamut3: the maker’s “S-Log2 Technical
 * Paper”, 2012; from memory.
 */
export const sLog2: EncodingRecord = {
  label: 'S-Log2, S-Gamut',
  primaries: sLog3Wide.primaries,
  transfer: logWithToe({
    cut: 0,
    a: LIGHT,
    b: 0.037584,
    c: (0.432699 * SPAN) / LAST,
    d: (0.646596 * SPAN + BLACK) / LAST,
    e: (3.53881278538813 * LIGHT * SPAN) / LAST,
    f: (0.030001222851889303 * SPAN + BLACK) / LAST,
  }),
  tags: { primaries: 'unknown', transfer: 'unknown', matrix: 'bt709' },
};
