import { bilinear } from './bilinear.ts';
import { boundsOfFinished, unitedBox, type PixelBox } from './bounds.ts';
import { pieceMotion, placeAfter, type PieceMotion } from '../track/pieceMotion.ts';
import { inverted } from '../track/homography.ts';
import { pyramidOf, type Pyramid } from '../track/pyramid.ts';

/** A matte and the luma of its frame, both `width × height`; pyramids are made when first asked for. */
export interface Moment {
  width: number;
  height: number;
  alpha: Float32Array;
  luma: Pyramid;
}

/** What a matte is asked for on every frame near its own, found once. */
interface Extent {
  /** Outside of it nothing is selected. */
  support: PixelBox | undefined;
  /** Pixels of which at least half is selected. */
  area: number;
}
const extents = new WeakMap<Float32Array, Extent>();
function extentOf(alpha: Float32Array, width: number, height: number): Extent {
  const known = extents.get(alpha);
  if (known) return known;
  const support = boundsOfFinished(alpha, width, height);
  const { x0, y0, x1, y1 } = support ?? NOWHERE;
  let area = 0;
  for (let y = y0; y < y1; y++) for (let i = y * width + x0; i < y * width + x1; i++) if (alpha[i]! >= 0.5) area++;
  const found = { support, area };
  extents.set(alpha, found);
  return found;
}
const NOWHERE: PixelBox = { x0: 0, y0: 0, x1: 0, y1: 0 };

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

/** Side of the squares over which the motion is read once at each corner and taken as bilinear between. */
const CELL = 8;

/** α of another frame, as it lies on this one; −1 where it lies off the picture. */
export function carriedMatte(motion: PieceMotion, alpha: Float32Array, width: number, height: number): Float32Array {
  const [across, down] = [Math.ceil(width / CELL) + 1, Math.ceil(height / CELL) + 1];
  const [px, py] = [new Float32Array(across * down), new Float32Array(across * down)];
  for (let j = 0; j < down; j++)
    for (let i = 0; i < across; i++) {
      const [x, y] = placeAfter(motion, i * CELL, j * CELL);
      px[j * across + i] = x;
      py[j * across + i] = y;
    }
  const out = new Float32Array(width * height);
  const { support } = extentOf(alpha, width, height);
  const [rowX, rowY] = [new Float32Array(across), new Float32Array(across)];
  const isRead = new Uint8Array(across);
  for (let y = 0; y < height; y++) {
    const j = Math.floor(y / CELL);
    if (y % CELL === 0)
      for (let i = 0; i < across - 1; i++)
        isRead[i] = readsNothing(px, py, j * across + i, across, support, width, height) ? 0 : 1;
    const fy = (y + 0.5) / CELL - j;
    for (let i = 0; i < across; i++) {
      const k = j * across + i;
      rowX[i] = (1 - fy) * px[k]! + fy * px[k + across]!;
      rowY[i] = (1 - fy) * py[k]! + fy * py[k + across]!;
    }
    for (let i = 0; i < across - 1; i++) {
      if (isRead[i] === 0) continue;
      const end = Math.min((i + 1) * CELL, width);
      for (let x = i * CELL; x < end; x++) {
        const fx = (x + 0.5) / CELL - i;
        out[y * width + x] = read(
          alpha,
          width,
          height,
          (1 - fx) * rowX[i]! + fx * rowX[i + 1]! - 0.5,
          (1 - fx) * rowY[i]! + fx * rowY[i + 1]! - 0.5,
        );
      }
    }
  }
  return out;
}
/** Samples beside a place that reading it takes in, and what rounding may move it by. */
const BESIDE = 2;
/** Does a square, from its corner `k` on, lie inside the picture and where nothing is selected? There all is 0. */
function readsNothing(
  px: Float32Array,
  py: Float32Array,
  k: number,
  across: number,
  support: PixelBox | undefined,
  width: number,
  height: number,
): boolean {
  const below = k + across;
  const left = Math.min(px[k]!, px[k + 1]!, px[below]!, px[below + 1]!) - BESIDE;
  const right = Math.max(px[k]!, px[k + 1]!, px[below]!, px[below + 1]!) + BESIDE;
  const top = Math.min(py[k]!, py[k + 1]!, py[below]!, py[below + 1]!) - BESIDE;
  const bottom = Math.max(py[k]!, py[k + 1]!, py[below]!, py[below + 1]!) + BESIDE;
  if (!(left > 0 && top > 0 && right < width && bottom < height)) return false;
  return !support || right < support.x0 || left > support.x1 || bottom < support.y0 || top > support.y1;
}
function read(alpha: Float32Array, width: number, height: number, x: number, y: number): number {
  if (!(x > -0.5 && y > -0.5 && x < width - 0.5 && y < height - 0.5)) return -1;
  // half a pixel beyond the outer samples' centres still belongs to the picture
  return bilinear(
    alpha,
    width,
    Math.min(Math.max(x, 0), width - 1 - 1e-6),
    Math.min(Math.max(y, 0), height - 1 - 1e-6),
  );
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
  for (let y = y0; y < y1; y++)
    for (let i = y * width + x0; i < y * width + x1; i++) out[i] = middleOf(alpha[i]!, carried, i, values);
  return out;
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
