import { codesFromLinear709, linear709FromCodes, type Encoding } from '../colour/encoding.ts';
import type { LinearPlanes } from '../colour/planes.ts';
import { ciede2000 } from '../colour/ciede2000.ts';
import type { Lookup } from '../colour/lookupTable.ts';
import type { Program } from '../recolour/program.ts';
import { recolourInto } from '../recolour/recolourInto.ts';
import { labFromLinear709 } from '../colour/lab.ts';
import { cubeOf, type Cube } from './cube.ts';
import { cubeAt } from './cubeAt.ts';

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
  root: Lookup,
): { cube: Cube; meanDeltaE: number; worstDeltaE: number } {
  const exact = exactly(program, encoding, root);
  const cube = cubeOf(title, size, exact);
  const table = cubeAt(cube);
  let [sum, worst, count] = [0, 0, 0];
  const lab = (codes: Float64Array) => labFromLinear709(linear709FromCodes(encoding, clamped(codes)));
  for (let k = 0; k < CHECKED ** 3; k++) {
    const at = [k, k / CHECKED, k / CHECKED ** 2].map((v) => ((Math.floor(v) % CHECKED) + 0.5) / CHECKED);
    const [wanted, found] = [Float64Array.from(at), Float64Array.from(at)];
    exact(wanted);
    table(found);
    const off = ciede2000(lab(wanted), lab(found));
    [sum, worst, count] = [sum + off, Math.max(worst, off), count + 1];
  }
  return { cube, meanDeltaE: sum / count, worstDeltaE: worst };
}
const clamped = (codes: Float64Array): [number, number, number] =>
  [0, 1, 2].map((c) => Math.min(Math.max(codes[c]!, 0), 1)) as [number, number, number];

/** The recipe at full α on one colour of codes. */
function exactly(program: Program, encoding: Encoding, root: Lookup): (rgb: Float64Array) => void {
  const light: LinearPlanes = { r: new Float32Array(1), g: new Float32Array(1), b: new Float32Array(1) };
  const alpha = new Float32Array([1]);
  return (rgb) => {
    const from = linear709FromCodes(encoding, [rgb[0]!, rgb[1]!, rgb[2]!]);
    [light.r[0], light.g[0], light.b[0]] = from;
    if (!program.isNeutral) recolourInto(light, alpha, program, root);
    rgb.set(codesFromLinear709(encoding, [light.r[0], light.g[0], light.b[0]]));
  };
}
