import { linearFromRec709, rec709FromLinear } from '../rec709.ts';
import { PRIMARIES_709 } from '../xyz.ts';
import type { EncodingRecord } from './record.ts';

/** Rec. ITU-R BT.709-6 primaries, display light by Rec. ITU-R BT.1886 (γ 2.4). */
export const rec709: EncodingRecord = {
  label: 'Rec.709 (BT.1886)',
  primaries: PRIMARIES_709,
  transfer: { linearFromCode: linearFromRec709, codeFromLinear: rec709FromLinear },
  tags: { primaries: 'bt709', transfer: 'bt709', matrix: 'bt709' },
};
