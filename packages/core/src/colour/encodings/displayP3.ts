import { linearFromSrgb, srgbFromLinear } from '../srgb.ts';
import type { EncodingRecord } from './record.ts';

/** Display P3 (CSS Color 4 §10.4): the primaries of SMPTE EG 432-1 with D65, the transfer of IEC 61966-2-1. */
export const displayP3: EncodingRecord = {
  label: 'Display P3',
  primaries: { red: [0.68, 0.32], green: [0.265, 0.69], blue: [0.15, 0.06], white: [0.3127, 0.329] },
  transfer: { linearFromCode: linearFromSrgb, codeFromLinear: srgbFromLinear },
  tags: { primaries: 'smpte432', transfer: 'iec61966-2-1', matrix: 'bt709' },
};
