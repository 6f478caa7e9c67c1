import { PRIMARIES_AP0 } from '../aces.ts';
import { LIGHT } from './light.ts';
import type { EncodingRecord } from './record.ts';

/** SMPTE ST 2065-1: linear light of AP0. H.273 has no code point for its primaries. */
export const aces2065: EncodingRecord = {
  label: 'ACES2065-1',
  primaries: PRIMARIES_AP0,
  transfer: LIGHT,
  tags: { primaries: 'unknown', transfer: 'linear', matrix: 'bt709' },
};
