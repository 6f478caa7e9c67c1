import { linearFromPq, pqFromLinear } from '../pq.ts';
import { rec2020 } from './rec2020.ts';
import type { EncodingRecord } from './record.ts';

/** Rec. ITU-R BT.2100-2 with the perceptual quantizer (table 4); its primaries (table 2) are BT.2020's. */
export const pq2100: EncodingRecord = {
  label: 'Rec.2100 PQ',
  primaries: rec2020.primaries,
  transfer: { linearFromCode: linearFromPq, codeFromLinear: pqFromLinear },
  tags: { primaries: 'bt2020', transfer: 'smpte2084', matrix: 'bt2020nc' },
};
