import { S_LOG3, S_LOG3_STEP_BITS } from '../sLog3.ts';
import type { EncodingRecord } from './record.ts';

/** S-Log3 in S-Gamut3, the wider of its two gamuts: see ../sLog3.ts. */
export const sLog3Wide: EncodingRecord = {
  label: 'S-Log3, S-Gamut3',
  primaries: { red: [0.73, 0.28], green: [0.14, 0.855], blue: [0.1, -0.05], white: [0.3127, 0.329] },
  transfer: S_LOG3,
  stepBits: S_LOG3_STEP_BITS,
  tags: { primaries: 'unknown', transfer: 'unknown', matrix: 'bt709' },
};
