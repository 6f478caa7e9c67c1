import { logWithToe } from '../logWithToe.ts';
import { rec2020 } from './rec2020.ts';
import type { EncodingRecord } from './record.ts';

/** F-Log2 over scene reflectance: the maker’s “F-Log2 Data Sheet”, version 1.0; from memory. */
export const fLog2: EncodingRecord = {
  label: 'F-Log2, Rec.2020',
  primaries: rec2020.primaries,
  transfer: logWithToe({
    cut: 0.000889,
    a: 5.555556,
    b: 0.064829,
    c: 0.245281,
    d: 0.384316,
    e: 8.799461,
    f: 0.092864,
  }),
  tags: { primaries: 'unknown', transfer: 'unknown', matrix: 'bt709' },
};
