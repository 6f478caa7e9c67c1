import { CANON_LOG_3 } from '../canonLog.ts';
import { CINEMA_GAMUT } from './canonLog2.ts';
import type { EncodingRecord } from './record.ts';

/**
 * Canon Log 3 in Cinema Gamut: the maker's “Canon Log Gamma Curves”, 2018, full-range codes; numbers from memory, held
 * to OpenColorIO's.
 */
export const canonLog3: EncodingRecord = {
  label: 'Canon Log 3, Cinema Gamut',
  primaries: CINEMA_GAMUT,
  transfer: CANON_LOG_3,
  tags: { primaries: 'unknown', transfer: 'unknown', matrix: 'bt709' },
};
