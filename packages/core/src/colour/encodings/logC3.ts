import { logWithToe } from '../logWithToe.ts';
import type { EncodingRecord } from './record.ts';

/**
 * LogC of the third generation at an exposure index of 800, over scene reflectance, and its wide gamut: the maker’s
 * white paper “ALEXA Log C Curve”, 2012, table 3 and page 11; numbers from memory, held to OpenColorIO’s.
 */
export const logC3: EncodingRecord = {
  label: 'LogC3 (EI 800)',
  primaries: { red: [0.684, 0.313], green: [0.221, 0.848], blue: [0.0861, -0.102], white: [0.3127, 0.329] },
  transfer: logWithToe({
    cut: 0.010591,
    a: 5.555556,
    b: 0.052272,
    c: 0.24719,
    d: 0.385537,
    e: 5.367655,
    f: 0.092809,
  }),
  tags: { primaries: 'unknown', transfer: 'unknown', matrix: 'bt709' },
};
