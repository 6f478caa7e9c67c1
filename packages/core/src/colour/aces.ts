// The Academy Color Encoding System's primaries and its logarithmic curve.
import type { Primaries } from './encodings/record.ts';

/** The white of both sets, near D60: SMPTE ST 2065-1:2012 table 1. */
const WHITE = [0.32168, 0.33767] as const;
/** AP0, SMPTE ST 2065-1:2012 table 1: they enclose all colours that are seen. */
export const PRIMARIES_AP0: Primaries = { red: [0.7347, 0.2653], green: [0, 1], blue: [0.0001, -0.077], white: WHITE };
/** AP1, AMPAS S-2014-004 table 1. */
export const PRIMARIES_AP1: Primaries = {
  red: [0.713, 0.293],
  green: [0.165, 0.83],
  blue: [0.128, 0.044],
  white: WHITE,
};

/** AMPAS S-2016-001 section 4.4: a straight part below the knee. */
const LIGHT_KNEE = 0.0078125;
const CODE_KNEE = 0.155251141552511;
const SLOPE = 10.5402377416545;
const OFFSET = 0.0729055341958355;

/** ACEScct of linear AP1; the straight part goes on below 0. */
export const acescctFromLinear = (linear: number): number =>
  linear <= LIGHT_KNEE ? SLOPE * linear + OFFSET : (Math.log2(linear) + 9.72) / 17.52;

/** Linear AP1 of ACEScct. */
export const linearFromAcescct = (code: number): number =>
  code <= CODE_KNEE ? (code - OFFSET) / SLOPE : 2 ** (code * 17.52 - 9.72);
