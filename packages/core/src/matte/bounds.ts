/** A box of whole pixels; `x1` and `y1` lie just outside. */
export interface PixelBox {
  x0: number;
  y0: number;
  x1: number;
  y1: number;
}

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

/** The smallest box that holds all pixels with α over `above`, a half if not said; undefined when there are none. */
export function boundsOfMatte(alpha: Float32Array, width: number, height: number, above = 0.5): PixelBox | undefined {
  /** The first pixel of a stretch that is over it, or where the stretch ends. */
  const firstIn = (from: number, to: number): number => {
    while (from < to && alpha[from]! <= above) from++;
    return from;
  };
  const first = firstIn(0, alpha.length);
  if (first === alpha.length) return undefined;
  const y0 = Math.floor(first / width);
  let [x0, x1, y1] = [first - y0 * width, first - y0 * width + 1, y0 + 1];
  for (let y = y0; y < height; y++) {
    const row = y * width;
    // of a row only what lies beside the columns that are held already can widen them
    let last = width;
    while (last > x1 && alpha[row + last - 1]! <= above) last--;
    x1 = last;
    x0 = firstIn(row, row + x0) - row;
    if (firstIn(row + x0, row + x1) < row + x1) y1 = y + 1;
  }
  return { x0, y0, x1, y1 };
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
