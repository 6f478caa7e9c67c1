import { displayP3 } from './displayP3.ts';
import { LIGHT } from './light.ts';
import type { EncodingRecord } from './record.ts';

/** Code values are light, of the primaries of SMPTE EG 432-1 with D65. */
export const linearP3: EncodingRecord = {
  label: 'Linear, P3',
  primaries: displayP3.primaries,
  transfer: LIGHT,
  tags: { primaries: 'smpte432', transfer: 'linear', matrix: 'bt709' },
};
