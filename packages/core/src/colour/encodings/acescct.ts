import { acescctFromLinear, linearFromAcescct, PRIMARIES_AP1 } from '../aces.ts';
import type { EncodingRecord } from './record.ts';

/** AMPAS S-2016-001: a logarithm of AP1's light, straight near black. H.273 has no code points for it. */
export const acescct: EncodingRecord = {
  label: 'ACEScct',
  primaries: PRIMARIES_AP1,
  transfer: { linearFromCode: linearFromAcescct, codeFromLinear: acescctFromLinear },
  tags: { primaries: 'unknown', transfer: 'unknown', matrix: 'bt709' },
};
