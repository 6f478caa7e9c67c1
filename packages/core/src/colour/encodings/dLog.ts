import { logWithToe } from '../logWithToe.ts';
import type { EncodingRecord } from './record.ts';

/** D-Log over scene reflectance, in D-Gamut: the maker’s “White Paper on D-Log and D-Gamut”, 2017; from memory. */
export const dLog: EncodingRecord = {
  label: 'D-Log, D-Gamut',
  primaries: { red: [0.71, 0.31], green: [0.21, 0.88], blue: [0.09, -0.08], white: [0.3127, 0.329] },
  transfer: logWithToe({ cut: 0.0078, a: 0.9892, b: 0.0108, c: 0.256663, d: 0.584555, e: 6.025, f: 0.0929 }),
  tags: { primaries: 'unknown', transfer: 'unknown', matrix: 'bt709' },
};
