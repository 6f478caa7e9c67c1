/**
 * Between a channel's normalised code value (0..1 nominal) and its linear light (1 = diffuse white). Both go on past
 * the ends: negatives are mirrored, or what is straight near 0 goes on straight.
 */
interface Transfer {
  linearFromCode: (code: number) => number;
  codeFromLinear: (linear: number) => number;
}

/** CIE 1931 2° chromaticities x, y. */
type Chromaticity = readonly [x: number, y: number];
export interface Primaries {
  red: Chromaticity;
  green: Chromaticity;
  blue: Chromaticity;
  white: Chromaticity;
}

/** How a picture's code values stand for light: all that the program knows of an encoding. */
export interface EncodingRecord {
  /** As users read it. */
  label: string;
  primaries: Primaries;
  transfer: Transfer;
  /** Steps an octave of its fast table, a power of two, where it needs more than others: its curve has a sharp bend. */
  stepBits?: number;
  /**
   * How files say that they are so: the code points of Rec. ITU-T H.273 in ffmpeg's words, for primaries (table 2),
   * transfer characteristics (table 3) and, where the samples are YCbCr, matrix coefficients (table 4).
   */
  tags: { primaries: string; transfer: string; matrix: string };
}
