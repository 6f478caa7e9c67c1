import { unitedBox } from './bounds.ts';
import { carriedMatte } from './carriedMatte.ts';
import { extentOf } from './extent.ts';
import { pieceMotion, type PieceMotion } from '../track/pieceMotion.ts';
import { inverted } from '../track/homography.ts';
import { pyramidOf, type Pyramid } from '../track/pyramid.ts';

/** A matte and the luma of its frame, both `width × height`; pyramids are made when first asked for. */
export interface Moment {
  width: number;
  height: number;
  alpha: Float32Array;
  luma: Pyramid;
}

/**
 * How a moment's piece moves to another moment. Where most of its matte has dropped out, it is told from the other's,
 * backwards.
 */
export function motionBetween(from: Moment, to: Moment): PieceMotion | undefined {
  const told = (a: Moment, b: Moment) =>
    pieceMotion(a.luma, b.luma, a.alpha, () => ({
      from: pyramidOf(a.alpha, a.width, a.height),
      to: pyramidOf(b.alpha, b.width, b.height),
    }));
  const [own, other] = [from, to].map(({ alpha, width, height }) => extentOf(alpha, width, height).area);
  if (own! >= other! / 2) return told(from, to);
  const back = told(to, from);
  return back && { motion: inverted(back.motion), flex: undefined, quad: back.quad };
}

/**
 * A matte steadied over time: the median, pixel by pixel, of its own α and that of the frames around it carried along
 * with the piece (motion-compensated temporal median). What comes or goes for good stays as sharp in time as it was;
 * what differs on a single frame goes. Frames whose motion cannot be told are left out; of an even number of values
 * the one of the middle two nearer to the frame's own counts.
 */
export function steadied(now: Moment, around: readonly Moment[]): Float32Array {
  const { width, height, alpha } = now;
  const carried = around.flatMap((other) => {
    const motion = motionBetween(now, other);
    return motion ? [carriedMatte(motion, other.alpha, width, height)] : [];
  });
  const out = alpha.slice();
  if (carried.length === 0) return out;
  // where neither its own nor what was carried selects anything nothing is to be steadied
  const boxes = [alpha, ...carried].flatMap((each) => extentOf(each, width, height).support ?? []);
  if (boxes.length === 0) return out;
  const { x0, y0, x1, y1 } = boxes.reduce(unitedBox);
  const values = new Float64Array(carried.length + 1);
  for (let y = y0; y < y1; y++) {
    const [from, to] = [y * width + x0, y * width + x1];
    if (carried.length === 2) middlesOfThree(out, alpha, carried[0]!, carried[1]!, from, to);
    else for (let i = from; i < to; i++) out[i] = middleOf(alpha[i]!, carried, i, values);
  }
  return out;
}
/** `middleOf` over a stretch where two were carried, as on most frames. */
function middlesOfThree(
  out: Float32Array,
  alpha: Float32Array,
  before: Float32Array,
  after: Float32Array,
  from: number,
  to: number,
): void {
  for (let i = from; i < to; i++) {
    const own = alpha[i]!;
    const b = before[i]!;
    const c = after[i]!;
    if (own === 0 && b === 0 && c === 0) continue;
    // off the picture on either: its own is in the middle of what is left, or is nearest to it
    if (b < 0 || c < 0) out[i] = own;
    else out[i] = Math.max(Math.min(own, b), Math.min(Math.max(own, b), c));
  }
}
/** The median of a pixel's own α and what was carried there; `values` is room for them. */
function middleOf(own: number, carried: readonly Float32Array[], i: number, values: Float64Array): number {
  let n = 1;
  values[0] = own;
  let same = true;
  for (let c = 0; c < carried.length; c++) {
    const v = carried[c]![i]!;
    if (v < 0) continue;
    if (v !== own) same = false;
    // insertion keeps the few values in order
    let k = n++;
    while (k > 0 && values[k - 1]! > v) {
      values[k] = values[k - 1]!;
      k--;
    }
    values[k] = v;
  }
  if (same) return own;
  if (n % 2 === 1) return values[n >> 1]!;
  return Math.min(Math.max(own, values[n / 2 - 1]!), values[n / 2]!);
}
