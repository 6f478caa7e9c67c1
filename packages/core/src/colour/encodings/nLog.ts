import { rec2020 } from './rec2020.ts';
import type { EncodingRecord } from './record.ts';

/**
 * Light where the cube root ends: its maker says 0.328, where the logarithm is an eighth of a code of ten bits higher;
 * here they meet.
 */
const END = 0.3167306079149404;
/** Under this code of ten bits, which is under all light, the root rises so steeply that 32 bits lose it: straight. */
const LOW = 8 / 1023;
const light = (code: number): number => ((1023 * code) / 650) ** 3 - 0.0075;
const [LOW_LIGHT, LOW_SLOPE] = [light(LOW), (light(LOW) + 0.0075) / LOW];
const root = (of: number): number =>
  of < LOW_LIGHT ? LOW + (of - LOW_LIGHT) / LOW_SLOPE : (650 * Math.cbrt(of + 0.0075)) / 1023;
const END_CODE = root(END);

/**
 * N-Log over scene reflectance: the maker’s “N-Log Specification Document”, 2018; from memory. A cube root, then a
 * logarithm.
 */
export const nLog: EncodingRecord = {
  label: 'N-Log, Rec.2020',
  primaries: rec2020.primaries,
  transfer: {
    linearFromCode: (code) => {
      if (code < LOW) return LOW_LIGHT + (code - LOW) * LOW_SLOPE;
      return code < END_CODE ? light(code) : Math.exp((1023 * code - 619) / 150);
    },
    codeFromLinear: (of) => (of < END ? root(of) : (150 * Math.log(of) + 619) / 1023),
  },
  tags: { primaries: 'unknown', transfer: 'unknown', matrix: 'bt709' },
};
