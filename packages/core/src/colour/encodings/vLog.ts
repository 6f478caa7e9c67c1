import { logWithToe } from '../logWithToe.ts';
import type { EncodingRecord } from './record.ts';

/**
 * V-Log over scene reflectance, in V-Gamut: the maker’s “V-Log/V-Gamut Reference Manual”, 2014; numbers from memory,
 * held to OpenColorIO’s.
 */
export const vLog: EncodingRecord = {
  label: 'V-Log, V-Gamut',
  primaries: { red: [0.73, 0.28], green: [0.165, 0.84], blue: [0.1, -0.03], white: [0.3127, 0.329] },
  transfer: logWithToe({ cut: 0.01, a: 1, b: 0.00873, c: 0.241514, d: 0.598206, e: 5.6, f: 0.125 }),
  tags: { primaries: 'unknown', transfer: 'unknown', matrix: 'bt709' },
};
