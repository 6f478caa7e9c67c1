import { CANON_LOG_2 } from '../canonLog.ts';
import type { EncodingRecord } from './record.ts';

/** Its maker's Cinema Gamut, from memory, held to OpenColorIO's. */
export const CINEMA_GAMUT: EncodingRecord['primaries'] = {
  red: [0.74, 0.27],
  green: [0.17, 1.14],
  blue: [0.08, -0.1],
  white: [0.3127, 0.329],
};
/**
 * Canon Log 2 in Cinema Gamut: the maker's “Canon Log Gamma Curves”, 2018, full-range codes; numbers from memory, held
 * to OpenColorIO's.
 */
export const canonLog2: EncodingRecord = {
  label: 'Canon Log 2, Cinema Gamut',
  primaries: CINEMA_GAMUT,
  transfer: CANON_LOG_2,
  tags: { primaries: 'unknown', transfer: 'unknown', matrix: 'bt709' },
};
