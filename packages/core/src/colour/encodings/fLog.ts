import { logWithToe } from '../logWithToe.ts';
import { rec2020 } from './rec2020.ts';
import type { EncodingRecord } from './record.ts';

/** F-Log over scene reflectance: the maker’s “F-Log Data Sheet”, version 1.1; from memory. */
export const fLog: EncodingRecord = {
  label: 'F-Log, Rec.2020',
  primaries: rec2020.primaries,
  transfer: logWithToe({
    cut: 0.00089,
    a: 0.555556,
    b: 0.009468,
    c: 0.344676,
    d: 0.790453,
    e: 8.735631,
    f: 0.092864,
  }),
  tags: { primaries: 'unknown', transfer: 'unknown', matrix: 'bt709' },
};
