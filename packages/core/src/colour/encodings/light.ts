import type { EncodingRecord } from './record.ts';

const same = (x: number): number => x;
/** Code values that are light themselves. */
export const LIGHT: EncodingRecord['transfer'] = { linearFromCode: same, codeFromLinear: same };
