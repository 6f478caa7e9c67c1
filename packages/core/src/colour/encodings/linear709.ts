import { PRIMARIES_709 } from '../xyz.ts';
import { LIGHT } from './light.ts';
import type { EncodingRecord } from './record.ts';

/** Code values are light, of Rec. ITU-R BT.709-6 primaries. */
export const linear709: EncodingRecord = {
  label: 'Linear, 709',
  primaries: PRIMARIES_709,
  transfer: LIGHT,
  tags: { primaries: 'bt709', transfer: 'linear', matrix: 'bt709' },
};
