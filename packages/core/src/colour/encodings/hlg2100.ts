import { hlgFromLinear, linearFromHlg } from '../hlg.ts';
import { rec2020 } from './rec2020.ts';
import type { EncodingRecord } from './record.ts';

/** Rec. ITU-R BT.2100-2 with hybrid log-gamma (table 5), read as light before the camera's curve. */
export const hlg2100: EncodingRecord = {
  label: 'Rec.2100 HLG',
  primaries: rec2020.primaries,
  transfer: { linearFromCode: linearFromHlg, codeFromLinear: hlgFromLinear },
  tags: { primaries: 'bt2020', transfer: 'arib-std-b67', matrix: 'bt2020nc' },
};
