import { S_LOG3, S_LOG3_STEP_BITS } from '../sLog3.ts';
import type { EncodingRecord } from './record.ts';

/** S-Log3 in S-Gamut3.Cine, the smaller of its two gamuts: see ../sLog3.ts. */
export const sLog3Cine: EncodingRecord = {
  label: 'S-Log3, S-Gamut3.Cine',
  primaries: { red: [0.766, 0.275], green: [0.225, 0.8], blue: [0.089, -0.087], white: [0.3127, 0.329] },
  transfer: S_LOG3,
  stepBits: S_LOG3_STEP_BITS,
  tags: { primaries: 'unknown', transfer: 'unknown', matrix: 'bt709' },
};
