// On its own, for what reads tables: the parser of XML is of no use to the others.
import { readCube } from './cube.ts';
import { readClf } from './readClf.ts';
import type { LookTable } from './table.ts';

/** Reads a table of either format; one that begins as XML does is taken for the second. Throws CubeError. */
export function readTable(text: string): LookTable {
  const said = text.replace(/^\uFEFF/, '');
  return /^\s*</.test(said) ? readClf(said) : readCube(said);
}
