import { LIGHT } from './light.ts';
import { rec2020 } from './rec2020.ts';
import type { EncodingRecord } from './record.ts';

/** Code values are light, of Rec. ITU-R BT.2020-2 primaries. */
export const linear2020: EncodingRecord = {
  label: 'Linear, 2020',
  primaries: rec2020.primaries,
  transfer: LIGHT,
  tags: { primaries: 'bt2020', transfer: 'linear', matrix: 'bt2020nc' },
};
