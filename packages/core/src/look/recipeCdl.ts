import type { Encoding } from '../colour/encoding.ts';
import type { Cdl } from '../document/look.ts';
import type { Program } from '../recolour/program.ts';
import { solveInPlace } from '../track/linear.ts';
import { lookAt } from './lookInto.ts';
import { gridOfCodes, missesBetween, recipeOnCodes } from './recipeCube.ts';

/** Slopes, offsets and powers of three channels, and one saturation. */
const COUNT = 10;
const NEUTRAL = [1, 1, 1, 0, 0, 0, 1, 1, 1, 1];
/** What the format and its controls allow: slopes, offsets, powers, saturation. */
const LIMITS = [0, 0, 0, 1, 1, 1, 2, 2, 2, 3].map(
  (k) =>
    [
      [0, 8],
      [-1, 1],
      [0.1, 8],
      [0, 4],
    ][k]!,
);
/** Codes along a side on which it is fitted, and how often at the most. */
const FITTED = 7;
const MOST_ROUNDS = 60;
/** A change of a number by which its effect is told. */
const NUDGE = 1e-5;

function cdlFrom(p: ArrayLike<number>): Cdl {
  const three = (at: number): Cdl['slope'] => [p[at]!, p[at + 1]!, p[at + 2]!];
  return { slope: three(0), offset: three(3), power: three(6), saturation: p[9]! };
}
/**
 * The ASC CDL nearest to a recipe on the codes of an encoding, and by how much it misses it: ΔE00 on average and at the
 * most. Least squares of codes that the recipe keeps within 0..1, by Levenberg and Marquardt (Marquardt, “An algorithm
 * for least-squares estimation of nonlinear parameters”, SIAM J. Appl. Math. 11, 1963).
 */
export function recipeCdl(program: Program, encoding: Encoding): { cdl: Cdl; meanDeltaE: number; worstDeltaE: number } {
  const recipe = recipeOnCodes(program, encoding);
  const pairs = gridOfCodes(FITTED)
    .map((at) => {
      const due = Float64Array.from(at);
      recipe(due);
      return { at, due };
    })
    // what is cut off at an end tells nothing of the way there
    .filter(({ due }) => due.every((v) => v >= 0 && v <= 1));
  const found = fitted(pairs);
  const cdl = cdlFrom(found);
  return { cdl, ...missesBetween(recipe, lookAt({ cdl }), encoding) };
}

interface Pair {
  at: readonly number[];
  due: Float64Array;
}
/** What is left over at each channel of each pair. */
function residuals(p: ArrayLike<number>, pairs: readonly Pair[]): Float64Array {
  const change = lookAt({ cdl: cdlFrom(p) });
  const out = new Float64Array(3 * pairs.length);
  pairs.forEach(({ at, due }, i) => {
    const rgb = Float64Array.from(at);
    change(rgb);
    for (let c = 0; c < 3; c++) out[3 * i + c] = rgb[c]! - due[c]!;
  });
  return out;
}
const squares = (r: Float64Array): number => r.reduce((sum, v) => sum + v * v, 0);
const within = (p: Float64Array): Float64Array =>
  p.map((v, k) => Math.min(Math.max(v, LIMITS[k]![0]!), LIMITS[k]![1]!));

function fitted(pairs: readonly Pair[]): Float64Array {
  let p: Float64Array = Float64Array.from(NEUTRAL);
  let left = residuals(p, pairs);
  let damping = 1e-3;
  for (let round = 0; round < MOST_ROUNDS; round++) {
    const slopes = NEUTRAL.map((_, k) => {
      const nudged = p.slice();
      nudged[k] = nudged[k]! + NUDGE;
      return residuals(nudged, pairs).map((v, i) => (v - left[i]!) / NUDGE);
    });
    const step = stepOf(slopes, left, damping);
    const next = step && within(p.map((v, k) => v - step[k]!));
    const after = next && residuals(next, pairs);
    if (!next || !after || !(squares(after) < squares(left))) {
      damping *= 8;
      if (damping > 1e9) break;
      continue;
    }
    const isThere = squares(left) - squares(after) < 1e-14 * pairs.length;
    [p, left, damping] = [next, after, damping / 4];
    if (isThere) break;
  }
  return p;
}

/** The damped step; undefined where there is none. */
function stepOf(slopes: readonly Float64Array[], left: Float64Array, damping: number): Float64Array | undefined {
  const dot = (a: Float64Array, b: Float64Array) => a.reduce((sum, v, i) => sum + v * b[i]!, 0);
  const normal = new Float64Array(COUNT * COUNT);
  for (let i = 0; i < COUNT; i++)
    for (let j = 0; j < COUNT; j++)
      normal[COUNT * i + j] = dot(slopes[i]!, slopes[j]!) * (i === j ? 1 + damping : 1) + (i === j ? 1e-12 : 0);
  const step = Float64Array.from(slopes, (slope) => dot(slope, left));
  return solveInPlace(normal, step, COUNT) ? step : undefined;
}
