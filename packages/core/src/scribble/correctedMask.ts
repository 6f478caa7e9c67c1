import type { Stroke } from '../document/layer.ts';
import { markEdgeBand } from '../matte/edgeBand.ts';
import { alongSurface } from './alongSurface.ts';
import { colourOdds } from './colourOdds.ts';
import { cutPixelsInPlace } from './cutOutline.ts';
import { grainOf } from './grain.ts';
import type { PreparedPicture } from './preparedPicture.ts';
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
const REACH = 0.03;
const COLOUR = 0.8;
/** What a stroke says less of leaves a pixel as it is. */
const LEAST_BY_STROKE = 0.5;
/** A stroke lies on the surface that its middle lies on: this share of its width, and so many fine pixels at most. */
const MIDDLE = 0.3;
const MOST_MIDDLE_PX = 2;
/** Half width of the band in which the outline is found again. */
const BAND_PX = 6;

/**
 * A selection corrected by strokes: along the surface that a stroke lies on it says what is in, elsewhere what was
 * selected stands, and the outline is found again where the two meet. Pixel by pixel: what is corrected is often
 * narrower than a patch. `prior` and the result are 0 or 1 at the fine size, which is `scale` times the full one.
 */
export function correctedMask(
  picture: PreparedPicture,
  strokes: readonly Stroke[],
  scale: number,
  prior: Float32Array,
): Float32Array {
  const { fine } = picture;
  const { width, height, oklab } = fine;
  const marks = markedByStrokes(strokes, width, height, scale);
  const distance = signedDistance(prior, width, height);
  const said = saidByStrokes(picture, strokes, scale);
  const colours = colourOdds(oklab, taughtMarks(distance, marks), () => false);
  const { L, a, b } = oklab;
  const odds = (i: number): number => {
    const before = Math.min(Math.max(distance[i]! / PRIOR_PX, -1), 1) * MOST_BY_PRIOR;
    const sure = Math.abs(said[i]!) / MOST_BY_STROKE;
    return said[i]! + (1 - sure) * before + COLOUR * colours(L[i]!, a[i]!, b[i]!);
  };
  const mask = prior.slice();
  const open = new Uint8Array(mask.length);
  markEdgeBand(open, mask, width, height, BAND_PX);
  for (let i = 0; i < open.length; i++) if (Math.abs(said[i]!) > LEAST_BY_STROKE) open[i] = 1;
  cutPixelsInPlace(mask, fine, marks, odds, open);
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

/** Per pixel, what the stroke says that is nearest along the surface: in over 0, less the more differs on the way. */
function saidByStrokes(picture: PreparedPicture, strokes: readonly Stroke[], scale: number): Float32Array {
  const { fine } = picture;
  const lines = strokes.map((s) => ({ ...s, widthPx: Math.min(MIDDLE * s.widthPx, MOST_MIDDLE_PX / scale) }));
  const middles = markedByStrokes(lines, fine.width, fine.height, scale);
  const grain = grainOf(fine);
  const most = REACH * Math.log(MOST_BY_STROKE / LEAST_BY_STROKE);
  const said = alongSurface(picture, middles, 1, grain, most);
  const toOut = alongSurface(picture, middles, -1, grain, most);
  for (let i = 0; i < said.length; i++)
    said[i] = MOST_BY_STROKE * (Math.exp(-said[i]! / REACH) - Math.exp(-toOut[i]! / REACH));
  return said;
}
