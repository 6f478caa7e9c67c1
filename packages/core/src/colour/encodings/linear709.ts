import { PRIMARIES_709 } from '../xyz.ts';
import type { EncodingRecord } from './record.ts';

const same = (x: number): number => x;

/** Code values are light, of Rec. ITU-R BT.709-6 primaries. */
export const linear709: EncodingRecord = {
  label: 'Linear, 709',
  primaries: PRIMARIES_709,
  transfer: { linearFromCode: same, codeFromLinear: same },
  tags: { primaries: 'bt709', transfer: 'linear', matrix: 'bt709' },
};
