import { bilinear } from './bilinear.ts';
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

const areaOf = (alpha: Float32Array): number => alpha.reduce((n, a) => n + (a >= 0.5 ? 1 : 0), 0);

/** How a moment's piece moves to another moment. Where most of its matte has dropped out, it is told from the other's, backwards. */
export function motionBetween(from: Moment, to: Moment): PieceMotion | undefined {
  const told = (a: Moment, b: Moment) => pieceMotion(a.luma, b.luma, a.alpha, () => ({ from: pyramidOf(a.alpha, a.width, a.height), to: pyramidOf(b.alpha, b.width, b.height) }));
  if (areaOf(from.alpha) >= areaOf(to.alpha) / 2) return told(from, to);
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
  for (let y = 0; y < height; y++) {
    const j = Math.floor(y / CELL);
    const fy = (y + 0.5) / CELL - j;
    for (let x = 0; x < width; x++) {
      const i = Math.floor(x / CELL);
      const fx = (x + 0.5) / CELL - i;
      const k = j * across + i;
      const mix = (p: Float32Array) => (1 - fy) * ((1 - fx) * p[k]! + fx * p[k + 1]!) + fy * ((1 - fx) * p[k + across]! + fx * p[k + across + 1]!);
      out[y * width + x] = read(alpha, width, height, mix(px) - 0.5, mix(py) - 0.5);
    }
  }
  return out;
}
function read(alpha: Float32Array, width: number, height: number, x: number, y: number): number {
  if (!(x > -0.5 && y > -0.5 && x < width - 0.5 && y < height - 0.5)) return -1;
  // half a pixel beyond the outer samples' centres still belongs to the picture
  return bilinear(alpha, width, Math.min(Math.max(x, 0), width - 1 - 1e-6), Math.min(Math.max(y, 0), height - 1 - 1e-6));
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
  const values = new Float64Array(carried.length + 1);
  for (let i = 0; i < out.length; i++) {
    const own = alpha[i]!;
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
    if (same) continue;
    if (n % 2 === 1) out[i] = values[n >> 1]!;
    else {
      const [a, b] = [values[n / 2 - 1]!, values[n / 2]!];
      out[i] = Math.min(Math.max(own, a), b);
    }
  }
  return out;
}

/** Half width of the band round an outline, pixels of the full picture. */
const BAND_PX = 3;

/** Pixels within `radius` of where α passes ½: some α about them reaches it and some does not. */
function bandOf(alpha: Float32Array, width: number, height: number, radius: number): Uint8Array {
  const inside = Uint8Array.from(alpha, (a) => (a >= 0.5 ? 1 : 0));
  const sums = new Uint16Array(width * height);
  for (let y = 0; y < height; y++) {
    let sum = 0;
    for (let x = -radius; x < width; x++) {
      if (x + radius < width) sum += inside[y * width + x + radius]!;
      if (x - radius - 1 >= 0) sum -= inside[y * width + x - radius - 1]!;
      if (x >= 0) sums[y * width + x] = sum;
    }
  }
  const out = new Uint8Array(width * height);
  for (let x = 0; x < width; x++) {
    let sum = 0;
    const column = (y: number) => sums[y * width + x]!;
    for (let y = -radius; y < height; y++) {
      if (y + radius < height) sum += column(y + radius);
      if (y - radius - 1 >= 0) sum -= column(y - radius - 1);
      if (y < 0) continue;
      const all = (Math.min(x + radius, width - 1) - Math.max(x - radius, 0) + 1) * (Math.min(y + radius, height - 1) - Math.max(y - radius, 0) + 1);
      out[y * width + x] = sum > 0 && sum < all ? 1 : 0;
    }
  }
  return out;
}

/**
 * Chatter: the mean of |α − α of the frame before, carried along by the piece's motion| over a band round both outlines,
 * 0..1. `scale`: this size over the full resolution. Undefined where there is no outline or the motion cannot be told.
 */
export function chatterBetween(before: Moment, now: Moment, scale: number): number | undefined {
  const { width, height, alpha } = now;
  const motion = motionBetween(now, before);
  if (!motion) return undefined;
  const was = carriedMatte(motion, before.alpha, width, height);
  const radius = Math.max(Math.round(BAND_PX * scale), 1);
  const [here, there] = [bandOf(alpha, width, height, radius), bandOf(was, width, height, radius)];
  let [sum, n] = [0, 0];
  for (let i = 0; i < alpha.length; i++) {
    if (!(here[i]! || there[i]!) || was[i]! < 0) continue;
    sum += Math.abs(alpha[i]! - was[i]!);
    n++;
  }
  return n === 0 ? undefined : sum / n;
}
