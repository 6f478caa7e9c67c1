import { linearFromRec709, rec709FromLinear } from '../rec709.ts';
import type { EncodingRecord } from './record.ts';

/** Rec. ITU-R BT.2020-2 table 3 primaries, display light by Rec. ITU-R BT.1886 (γ 2.4): its standard dynamic range. */
export const rec2020: EncodingRecord = {
  label: 'Rec.2020 (BT.1886)',
  primaries: { red: [0.708, 0.292], green: [0.17, 0.797], blue: [0.131, 0.046], white: [0.3127, 0.329] },
  transfer: { linearFromCode: linearFromRec709, codeFromLinear: rec709FromLinear },
  tags: { primaries: 'bt2020', transfer: 'bt2020-10', matrix: 'bt2020nc' },
};
