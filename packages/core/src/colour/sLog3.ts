import { logWithToe } from './logWithToe.ts';

/**
 * S-Log3 over scene reflectance: the maker’s “Technical Summary for S-Gamut3.Cine/S-Log3 and S-Gamut3/S-Log3”, 2014,
 * in codes of ten bits; numbers from memory, held to OpenColorIO’s.
 */
export const S_LOG3 = logWithToe({
  cut: 0.01125,
  a: 1 / 0.19,
  b: 0.01 / 0.19,
  c: 261.5 / 1023,
  d: 420 / 1023,
  e: (171.2102946929 - 95) / 0.01125 / 1023,
  f: 95 / 1023,
});
/** Its straight part meets the logarithm at an angle. */
export const S_LOG3_STEP_BITS = 11;
