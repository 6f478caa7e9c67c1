import { pairsOf } from './pairs.ts';

/** A box of whole pixels; `x1` and `y1` lie just outside. */
export interface PixelBox {
  x0: number;
  y0: number;
  x1: number;
  y1: number;
}

/** Holds nothing. */
export const NOWHERE: PixelBox = { x0: 0, y0: 0, x1: 0, y1: 0 };

/** The smallest box that holds both. */
export const unitedBox = (a: PixelBox, b: PixelBox): PixelBox => ({
  x0: Math.min(a.x0, b.x0),
  y0: Math.min(a.y0, b.y0),
  x1: Math.max(a.x1, b.x1),
  y1: Math.max(a.y1, b.y1),
});

/** What both hold; undefined where that is nothing. */
export function sharedBox(a: PixelBox, b: PixelBox): PixelBox | undefined {
  const box = {
    x0: Math.max(a.x0, b.x0),
    y0: Math.max(a.y0, b.y0),
    x1: Math.min(a.x1, b.x1),
    y1: Math.min(a.y1, b.y1),
  };
  return box.x0 < box.x1 && box.y0 < box.y1 ? box : undefined;
}

export const isWholeBox = ({ x0, y0, x1, y1 }: PixelBox, width: number, height: number): boolean =>
  x0 === 0 && y0 === 0 && x1 === width && y1 === height;

type Plane = Uint8Array | Uint16Array | Float32Array;
/** The part of a plane in a box, as a plane of its own. */
export function cutOut<P extends Plane>(plane: P, width: number, { x0, y0, x1, y1 }: PixelBox): P {
  const out = new (plane.constructor as new (length: number) => P)((x1 - x0) * (y1 - y0));
  for (let y = y0; y < y1; y++) out.set(plane.subarray(y * width + x0, y * width + x1), (y - y0) * (x1 - x0));
  return out;
}
/** Puts a plane of a box's size in its place, in place. */
export function putBack(into: Plane, width: number, part: Plane, { x0, y0, x1, y1 }: PixelBox): void {
  const w = x1 - x0;
  for (let y = y0; y < y1; y++) into.set(part.subarray((y - y0) * w, (y - y0 + 1) * w), y * width + x0);
}

/**
 * The smallest box that holds all pixels with α over `above` (0 or more, a half if not said); undefined when there are
 * none. Most of a plane is 0: two samples are looked at as one number, which is 0 where both are.
 */
export function boundsOfMatte(plane: Float32Array, width: number, height: number, above = 0.5): PixelBox | undefined {
  // as numbers twice as long they must begin on a round address
  const alpha = plane.byteOffset % 8 === 0 ? plane : plane.slice();
  const pairs = pairsOf(alpha);
  const end = width * height;
  const first = firstOver(alpha, pairs, 0, end, above);
  if (first === end) return undefined;
  const y0 = Math.floor(first / width);
  const y1 = Math.floor((behindLastOver(alpha, pairs, first, end, above) - 1) / width) + 1;
  let x0 = first - y0 * width;
  let x1 = x0 + 1;
  // of a row only what lies beside the columns that are held already can widen them
  for (let row = y0 * width; row < y1 * width; row += width) {
    x0 = firstOver(alpha, pairs, row, row + x0, above) - row;
    x1 = behindLastOver(alpha, pairs, row + x1, row + width, above) - row;
  }
  return { x0, y0, x1, y1 };
}
/** The first sample of a stretch that is over a value, or where the stretch ends. */
function firstOver(alpha: Float32Array, pairs: Float64Array, from: number, to: number, above: number): number {
  if (from % 2 === 1 && from < to && alpha[from]! <= above) from++;
  else if (from % 2 === 1) return from;
  const last = to >> 1;
  for (let k = from >> 1; k < last; k++) {
    if (pairs[k] === 0) continue;
    if (!(alpha[2 * k]! <= above)) return 2 * k;
    if (!(alpha[2 * k + 1]! <= above)) return 2 * k + 1;
  }
  return to % 2 === 1 && from < to && !(alpha[to - 1]! <= above) ? to - 1 : to;
}
/** Behind the last of them, or where the stretch begins. */
function behindLastOver(alpha: Float32Array, pairs: Float64Array, from: number, to: number, above: number): number {
  if (to % 2 === 1 && from < to && alpha[to - 1]! <= above) to--;
  else if (to % 2 === 1) return to;
  const first = (from + 1) >> 1;
  for (let k = (to >> 1) - 1; k >= first; k--) {
    if (pairs[k] === 0) continue;
    if (!(alpha[2 * k + 1]! <= above)) return 2 * k + 2;
    if (!(alpha[2 * k]! <= above)) return 2 * k + 1;
  }
  return from % 2 === 1 && from < to && !(alpha[from]! <= above) ? from + 1 : from;
}

/** Where finished mattes select anything: looked for once, though more than one step asks. */
const selected = new WeakMap<Float32Array, { width: number; box: PixelBox | undefined }>();
/** The smallest box that holds all that a finished matte selects; undefined for nothing. */
export function boundsOfFinished(alpha: Float32Array, width: number, height: number): PixelBox | undefined {
  const known = selected.get(alpha);
  if (known?.width === width) return known.box;
  const box = boundsOfMatte(alpha, width, height, 0);
  selected.set(alpha, { width, box });
  return box;
}

/** A box grown by so many pixels on all sides, cut to the picture. */
export const boxAround = ({ x0, y0, x1, y1 }: PixelBox, margin: number, width: number, height: number): PixelBox => ({
  x0: Math.max(x0 - margin, 0),
  y0: Math.max(y0 - margin, 0),
  x1: Math.min(x1 + margin, width),
  y1: Math.min(y1 + margin, height),
});

/** A box grown on all sides by a share of its longer one, cut to the picture. */
export const grownBox = (box: PixelBox, share: number, width: number, height: number): PixelBox =>
  boxAround(box, Math.round(share * Math.max(box.x1 - box.x0, box.y1 - box.y0)), width, height);

/** A matte at another, usually smaller, width: the nearest sample of each pixel. */
export function resampledMatte(
  alpha: Float32Array,
  width: number,
  height: number,
  to: number,
): { alpha: Float32Array; width: number; height: number } {
  const tall = Math.round((to * height) / width);
  const out = new Float32Array(to * tall);
  for (let y = 0; y < tall; y++)
    for (let x = 0; x < to; x++) {
      const sx = Math.floor(((x + 0.5) * width) / to);
      const sy = Math.floor(((y + 0.5) * height) / tall);
      out[y * to + x] = alpha[sy * width + sx]!;
    }
  return { alpha: out, width: to, height: tall };
}
