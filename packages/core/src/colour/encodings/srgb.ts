import { linearFromSrgb, srgbFromLinear } from '../srgb.ts';
import { PRIMARIES_709 } from '../xyz.ts';
import type { EncodingRecord } from './record.ts';

/** IEC 61966-2-1. */
export const srgb: EncodingRecord = {
  label: 'sRGB',
  primaries: PRIMARIES_709,
  transfer: { linearFromCode: linearFromSrgb, codeFromLinear: srgbFromLinear },
  tags: { primaries: 'bt709', transfer: 'iec61966-2-1', matrix: 'bt709' },
};
