import { codesFromLinear709, linear709FromCodes, type Encoding } from '../colour/encoding.ts';
import { ciede2000 } from '../colour/ciede2000.ts';
import { recoloured, type Program } from '../recolour/program.ts';
import { labFromLinear709 } from '../colour/lab.ts';
import { cubeOf, type Cube } from './cube.ts';
import { cubeAt, type OnCodes } from './cubeAt.ts';

/** Steps along a side on which a table is compared with what it was made of; falls between the entries of both. */
const CHECKED = 23;

/** What of a recipe a table cannot hold, since it depends on more than a pixel's colour. */
export function beyondTable({ sheen, texture, outside }: Program): string[] {
  return [
    ...(sheen ? ['sheen kept apart'] : []),
    ...(texture ? ['texture'] : []),
    ...(outside ? ['what is done outside'] : []),
  ];
}

/**
 * A recipe as a 3-D table on the codes of an encoding, and by how much the table misses the recipe between its entries:
 * ΔE00 on average and at the most, over a grid of codes.
 */
export function recipeCube(
  title: string,
  program: Program,
  encoding: Encoding,
  size: number,
): { cube: Cube; meanDeltaE: number; worstDeltaE: number } {
  const exact = recipeOnCodes(program, encoding);
  const cube = cubeOf(title, size, exact);
  return { cube, ...missesBetween(exact, cubeAt(cube), encoding) };
}

/** By how much one function of codes misses another, ΔE00 over a grid of codes of an encoding. */
export function missesBetween(
  wanted: OnCodes,
  found: OnCodes,
  encoding: Encoding,
): { meanDeltaE: number; worstDeltaE: number } {
  let [sum, worst, count] = [0, 0, 0];
  const lab = (codes: Float64Array) => labFromLinear709(linear709FromCodes(encoding, clamped(codes)));
  for (const at of gridOfCodes(CHECKED)) {
    const [due, own] = [Float64Array.from(at), Float64Array.from(at)];
    wanted(due);
    found(own);
    const off = ciede2000(lab(due), lab(own));
    [sum, worst, count] = [sum + off, Math.max(worst, off), count + 1];
  }
  return { meanDeltaE: sum / count, worstDeltaE: worst };
}
/** Colours of codes, evenly spread, `size` along a side. */
export const gridOfCodes = (size: number): number[][] =>
  Array.from({ length: size ** 3 }, (_, k) =>
    [k, k / size, k / size ** 2].map((v) => ((Math.floor(v) % size) + 0.5) / size),
  );
const clamped = (codes: Float64Array): [number, number, number] =>
  [0, 1, 2].map((c) => Math.min(Math.max(codes[c]!, 0), 1)) as [number, number, number];

/** The recipe at full α on one colour of codes. */
export function recipeOnCodes(program: Program, encoding: Encoding): OnCodes {
  const { isNeutral, strength } = program;
  return (rgb) => {
    const from = linear709FromCodes(encoding, [rgb[0]!, rgb[1]!, rgb[2]!]);
    const next = isNeutral ? from : recoloured(program, from);
    const mixed = (c: 0 | 1 | 2) => from[c] + strength * (next[c] - from[c]);
    rgb.set(codesFromLinear709(encoding, [mixed(0), mixed(1), mixed(2)]));
  };
}
