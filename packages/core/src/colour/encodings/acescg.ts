import { PRIMARIES_AP1 } from '../aces.ts';
import { LIGHT } from './light.ts';
import type { EncodingRecord } from './record.ts';

/** AMPAS S-2014-004: linear light of AP1. H.273 has no code point for its primaries. */
export const acescg: EncodingRecord = {
  label: 'ACEScg',
  primaries: PRIMARIES_AP1,
  transfer: LIGHT,
  tags: { primaries: 'unknown', transfer: 'linear', matrix: 'bt709' },
};
