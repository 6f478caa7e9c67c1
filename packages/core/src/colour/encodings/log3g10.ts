import { logWithToe } from '../logWithToe.ts';
import type { EncodingRecord } from './record.ts';

const [A, B, BELOW, SLOPE] = [0.224282, 155.975327, 0.01, 15.1927];
/**
 * Log3G10 over scene reflectance, in its maker’s wide gamut: the white paper “REDWideGamutRGB and Log3G10”, 2017;
 * numbers from memory, held to OpenColorIO’s.
 */
export const log3g10: EncodingRecord = {
  label: 'Log3G10, wide gamut',
  primaries: {
    red: [0.780308, 0.304253],
    green: [0.121595, 1.493994],
    blue: [0.095612, -0.084589],
    white: [0.3127, 0.329],
  },
  transfer: logWithToe({ cut: -BELOW, a: B, b: B * BELOW + 1, c: A, d: 0, e: SLOPE, f: SLOPE * BELOW }),
  tags: { primaries: 'unknown', transfer: 'unknown', matrix: 'bt709' },
};
