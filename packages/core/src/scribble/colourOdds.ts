import type { OklabPlanes } from '../colour/oklabPlanes.ts';
import { fitColourMixture, logDensity, type ColourMixture } from './colourMixture.ts';

const MOST_COLOURS = 3000;
/** How much colour may say of one place, as log-odds. */
const MOST_BY_COLOUR = 4;

/**
 * Log-odds of a colour being the selection's rather than its surroundings', already weighed by how well colour tells
 * the strokes apart.
 */
export type ColourOdds = (L: number, a: number, b: number) => number;

/**
 * What colour says, by what strokes mark (1 in, −1 out, 0 nothing): at most 4 either way. `isFar`: is a pixel nearer to
 * the picture's rim than to the strokes? Where nothing is left out and nothing far, all is taken for the selection's.
 */
export function colourOdds(oklab: OklabPlanes, marks: Int8Array, isFar: (i: number) => boolean): ColourOdds {
  const taken = (wanted: (i: number) => boolean): Float64Array => {
    let n = 0;
    for (let i = 0; i < marks.length; i++) if (wanted(i)) n++;
    const every = Math.max(Math.ceil(n / MOST_COLOURS), 1);
    const list: number[] = [];
    for (let i = 0, k = 0; i < marks.length; i++)
      if (wanted(i) && k++ % every === 0) list.push(oklab.L[i]!, oklab.a[i]!, oklab.b[i]!);
    return Float64Array.from(list);
  };
  const isIn = taken((i) => marks[i] === 1);
  // without a stroke that leaves out, what lies far off stands for the surroundings
  const isOut = taken(marks.includes(-1) ? (i) => marks[i] === -1 : isFar);
  if (isOut.length === 0) return () => MOST_BY_COLOUR;
  const [own, other] = [fitColourMixture(isIn), fitColourMixture(isOut)];
  const odds = (L: number, a: number, b: number) => logDensity(own, L, a, b) - logDensity(other, L, a, b);
  const right = (meanProbability(isIn, own, other) + meanProbability(isOut, other, own)) / 2;
  // colours that the strokes share tell nothing: ½ is chance
  const weight = Math.min(Math.max(2 * right - 1, 0), 1);
  return (L, a, b) => weight * Math.min(Math.max(odds(L, a, b), -MOST_BY_COLOUR), MOST_BY_COLOUR);
}
function meanProbability(colours: Float64Array, of: ColourMixture, against: ColourMixture): number {
  let sum = 0;
  for (let i = 0; i < colours.length; i += 3) {
    const L = colours[i]!;
    const a = colours[i + 1]!;
    const b = colours[i + 2]!;
    sum += 1 / (1 + Math.exp(logDensity(against, L, a, b) - logDensity(of, L, a, b)));
  }
  return sum / (colours.length / 3);
}

/** Steps of the table along lightness, and along a and b; and what it spans of them. */
const STEPS = [24, 40, 40] as const;
const SPAN = { L: [0, 1.05], a: [-0.3, 0.3], b: [-0.3, 0.3] } as const;
const along = ([lo, hi]: readonly [number, number], n: number) => ({ lo, step: (hi - lo) / n, n });
const AXES = { L: along(SPAN.L, STEPS[0]), a: along(SPAN.a, STEPS[1]), b: along(SPAN.b, STEPS[2]) };

/** Odds as a table over lightness (slowest), a and b, for whole pictures; read with `oddsFromTable`. */
export function oddsTable(odds: ColourOdds): Float32Array {
  const { L, a, b } = AXES;
  const table = new Float32Array(L.n * a.n * b.n);
  for (let i = 0, o = 0; i < L.n; i++)
    for (let j = 0; j < a.n; j++)
      for (let k = 0; k < b.n; k++, o++)
        table[o] = odds(L.lo + (i + 0.5) * L.step, a.lo + (j + 0.5) * a.step, b.lo + (k + 0.5) * b.step);
  return table;
}
/** The odds of a table, at its nearest entry. */
export function oddsFromTable(table: Float32Array): ColourOdds {
  const { L, a, b } = AXES;
  const index = (v: number, { lo, step, n }: { lo: number; step: number; n: number }) =>
    Math.min(Math.max(Math.floor((v - lo) / step), 0), n - 1);
  return (l, x, y) => table[(index(l, L) * a.n + index(x, a)) * b.n + index(y, b)]!;
}
