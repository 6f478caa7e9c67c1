import { logWithToe } from '../logWithToe.ts';
import type { EncodingRecord } from './record.ts';

/** How the curve is laid out: light of 0 at code 95 of 1023, 2^18 − 16 at 1. */
const [BLACK, SPREAD, SCALE] = [95 / 1023, (1023 - 95) / 1023, (2 ** 18 - 16) / 117.45];
/** Below this code the curve is straight: where its logarithm would be of 0 there. */
const CUT = (2 ** (14 * (-BLACK / SPREAD) + 6) - 64) / SCALE;
const SLOPE = (7 * Math.LN2 * 2 ** (7 - (14 * BLACK) / SPREAD)) / (SCALE * SPREAD);
/** log2 in steps of a fourteenth, as the common form has it: c · log10. */
const PER_DECADE = (SPREAD * Math.log2(10)) / 14;

/**
 * LogC of the fourth generation over scene reflectance, and its gamut: the maker's “LogC4 Curve and Wide Gamut 4
 * Specification”, 2022, sections 3 and 4; from memory.
 */
export const logC4: EncodingRecord = {
  label: 'LogC4',
  primaries: { red: [0.7347, 0.2653], green: [0.1424, 0.8576], blue: [0.0991, -0.0308], white: [0.3127, 0.329] },
  transfer: logWithToe({
    cut: CUT,
    a: SCALE,
    b: 64,
    c: PER_DECADE,
    d: BLACK - (6 * SPREAD) / 14,
    e: 1 / SLOPE,
    f: -CUT / SLOPE,
  }),
  tags: { primaries: 'unknown', transfer: 'unknown', matrix: 'bt709' },
};
