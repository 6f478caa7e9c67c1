import type { Clf } from './clfSteps.ts';
import { readCube, type Cube } from './cube.ts';
import { readClf } from './readClf.ts';

/** A look-up table as files have it: the Cube LUT Specification's, or the steps of the Common LUT Format. */
export type LookTable = Cube | Clf;

/** Reads a table of either format; one that begins as XML does is taken for the second. Throws CubeError. */
export const readTable = (text: string): LookTable =>
  /^\s*</.test(text.replace(/^\uFEFF/, '')) ? readClf(text.replace(/^\uFEFF/, '')) : readCube(text);
