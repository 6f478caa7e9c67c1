import { rec2020 } from './rec2020.ts';
import type { EncodingRecord } from './record.ts';

const [LEAST, END, BEND] = [-0.05641088, 0.01, 47.28711236];
const [OFFSET, PER_STOP, AT_ONE] = [0.00964052, 0.08550479, 0.69336945];
const square = (light: number): number => BEND * Math.abs(light - LEAST) * (light - LEAST);
const END_CODE = square(END);
/**
 * Apple Log over scene reflectance: the maker’s “Apple Log Profile White Paper”, 2023; from memory. A parabola from the
 * least light that it holds, mirrored under it, then a logarithm.
 */
export const appleLog: EncodingRecord = {
  label: 'Apple Log, Rec.2020',
  primaries: rec2020.primaries,
  transfer: {
    linearFromCode: (code) =>
      code < END_CODE
        ? LEAST + Math.sign(code) * Math.sqrt(Math.abs(code) / BEND)
        : 2 ** ((code - AT_ONE) / PER_STOP) - OFFSET,
    codeFromLinear: (light) => (light < END ? square(light) : PER_STOP * Math.log2(light + OFFSET) + AT_ONE),
  },
  tags: { primaries: 'unknown', transfer: 'unknown', matrix: 'bt709' },
};
