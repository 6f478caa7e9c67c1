import type { Stroke } from '../document/layer.ts';
import { colourOdds } from './colourOdds.ts';
import { cutOutlineInPlace } from './cutOutline.ts';
import { cutPatches, differences2, votesOf } from './cutPatches.ts';
import { geodesicDistances } from './geodesic.ts';
import { maskOfPatches, patchOfEach, type PreparedPicture } from './preparedPicture.ts';
import { signedDistance } from './signedDistance.ts';
import { markedByStrokes } from './strokes.ts';

/** How much the selection that is corrected may say, as log-odds, and how far inside its outline it says so, pixels. */
const MOST_BY_PRIOR = 3;
const PRIOR_PX = 6;
/**
 * How much a stroke says of the surface it lies on, as log-odds, and how far that reaches: OKLab passed. Chosen, with
 * the share of colour, on four of seven carried selections; three only judged (docs/accuracy.md).
 */
const MOST_BY_STROKE = 6;
const REACH = 0.014;
const LEAST_STEP = 0.0015;
const COLOUR = 0.8;
const BAND_PX = 6;

/**
 * A selection corrected by strokes: along the surface that a stroke lies on it says what is in, elsewhere what was
 * selected stands, and the outline is found again where the two meet. `prior` and the result are 0 or 1 at the fine
 * size, which is `scale` times the full one.
 */
export function correctedMask(
  picture: PreparedPicture,
  strokes: readonly Stroke[],
  scale: number,
  prior: Float32Array,
): Float32Array {
  const { coarse, fine, patches } = picture;
  const patch = patchOfEach(picture);
  const fineMarks = markedByStrokes(strokes, fine.width, fine.height, scale);
  const distance = signedDistance(prior, fine.width, fine.height);
  const coarseMarks = markedByStrokes(strokes, coarse.width, coarse.height, (scale * coarse.width) / fine.width);
  const votes = votesOf(patches, coarseMarks);
  const said = saidByStrokes(picture, votes);
  const colours = colourOdds(fine.oklab, taughtMarks(distance, fineMarks), () => false);
  const { L, a, b } = fine.oklab;
  const odds = (i: number): number => {
    const byStroke = said[patch[i]!]!;
    const before = Math.min(Math.max(distance[i]! / PRIOR_PX, -1), 1) * MOST_BY_PRIOR;
    const sure = Math.abs(byStroke) / MOST_BY_STROKE;
    return byStroke + (1 - sure) * before + COLOUR * colours(L[i]!, a[i]!, b[i]!);
  };
  const [sum, n] = [new Float64Array(patches.count), new Float64Array(patches.count)];
  for (let i = 0; i < patch.length; i++) {
    sum[patch[i]!]! += odds(i);
    n[patch[i]!]!++;
  }
  const mask = maskOfPatches(
    patch,
    cutPatches(
      patches,
      votes,
      sum.map((s, k) => s / (n[k]! || 1)),
    ),
  );
  cutOutlineInPlace(mask, fine, fineMarks, odds, BAND_PX);
  return mask;
}

/** What the colours are learnt from: well inside and a little outside of what was selected, and the strokes over it. */
function taughtMarks(distance: Float32Array, strokes: Int8Array): Int8Array {
  const marks = strokes.slice();
  for (let i = 0; i < marks.length; i++) {
    if (marks[i] !== 0) continue;
    if (distance[i]! > 3) marks[i] = 1;
    else if (distance[i]! < -3 && distance[i]! > -60) marks[i] = -1;
  }
  return marks;
}

/** Per patch, what the stroke says that is nearest along the surface: in over 0, less the more differs on the way. */
function saidByStrokes({ patches }: PreparedPicture, votes: Int32Array): Float64Array {
  const { count, pairs } = patches;
  const cost = differences2(patches).map((d) => Math.sqrt(d) + LEAST_STEP);
  const from = (sign: 1 | -1) => {
    const seeds: number[] = [];
    votes.forEach((v, k) => Math.sign(v) === sign && seeds.push(k));
    return geodesicDistances(count, pairs, cost, seeds);
  };
  const [toIn, toOut] = [from(1), from(-1)];
  return toIn.map((d, k) => MOST_BY_STROKE * (Math.exp(-d / REACH) - Math.exp(-toOut[k]! / REACH)));
}
