import { kernels, type Kernels } from '../kernels/module.ts';
import { RowRoom } from '../kernels/rowRoom.ts';

/**
 * Mean over a (2·radius + 1)² window cut to the picture, by running sums: the cost does not depend on the radius.
 * `out` must not be `plane`.
 */
export function boxMeanInto(
  out: Float32Array,
  plane: Float32Array,
  width: number,
  height: number,
  radius: number,
): void {
  const own = kernels();
  if (own) boxMeanByKernel(own, out, plane, width, height, radius);
  else boxMeanBySamples(out, plane, width, height, radius);
}
/** The same in a new plane. */
export function boxMean(plane: Float32Array, width: number, height: number, radius: number): Float32Array {
  const out = new Float32Array(plane.length);
  boxMeanInto(out, plane, width, height, radius);
  return out;
}

/** What a window that slides down a picture meets. Rows are given by their first sample; −1 is none. */
interface Sliding {
  change: (coming: number, going: number) => void;
  /** The window lies round this row, and has so many. */
  rest: (row: number, rows: number) => void;
}
/** Slides a window of 2·radius + 1 rows down a picture, from above it. */
export function slideDown(width: number, height: number, radius: number, { change, rest }: Sliding): void {
  let rows = 0;
  for (let y = -radius; y < height; y++) {
    const coming = y + radius < height ? y + radius : -1;
    const going = Math.max(y - radius - 1, -1);
    if (coming >= 0) rows++;
    if (going >= 0) rows--;
    if (coming >= 0 || going >= 0) change(coming < 0 ? -1 : coming * width, going < 0 ? -1 : going * width);
    if (y >= 0) rest(y * width, rows);
  }
}

/** Sums of columns, with zeros where a window reaches past the picture. */
export const paddedSums = (width: number, radius: number) => new Float64Array(width + 2 * radius + 1);
/** Columns of a window round column `x` that lie in the picture. */
export const columnsRound = (x: number, width: number, radius: number): number =>
  Math.min(x + radius, width - 1) - Math.max(x - radius, 0) + 1;
/** What the window left of a row's first holds, its last column left out: where a running sum along the row begins. */
export function sumBefore(padded: Float64Array, radius: number): number {
  let sum = 0;
  for (let k = radius + 1; k <= 2 * radius; k++) sum += padded[k]!;
  return sum;
}

export function boxMeanBySamples(
  out: Float32Array,
  plane: Float32Array,
  width: number,
  height: number,
  radius: number,
): void {
  const padded = paddedSums(width, radius);
  slideDown(width, height, radius, {
    change: (coming, going) => slide(padded.subarray(radius + 1), plane, width, coming, going),
    rest: (row, rows) => meansOfRow(out, row, padded, width, radius, rows),
  });
}
/** A row of a plane comes into the sums of the columns, another goes. */
export function slide(sums: Float64Array, plane: Float32Array, width: number, coming: number, going: number): void {
  for (let x = 0; x < width; x++) {
    const comes = coming < 0 ? 0 : plane[coming + x]!;
    const goes = going < 0 ? 0 : plane[going + x]!;
    sums[x] = sums[x]! + (comes - goes);
  }
}
function meansOfRow(
  out: Float32Array,
  row: number,
  padded: Float64Array,
  width: number,
  radius: number,
  rows: number,
): void {
  let sum = sumBefore(padded, radius);
  for (let x = 0; x < width; x++) {
    sum += padded[x + 2 * radius + 1]! - padded[x]!;
    out[row + x] = sum / (rows * columnsRound(x, width, radius));
  }
}

function boxMeanByKernel(
  own: Kernels,
  out: Float32Array,
  plane: Float32Array,
  width: number,
  height: number,
  radius: number,
): void {
  const [COMES, GOES, OUT, ROWS] = [1, 2, 3, 4];
  const room = new RowRoom(own, width, radius, ROWS, 1);
  slideDown(width, height, radius, {
    change: (coming, going) =>
      own.slide(width, room.put(COMES, plane, coming, width), room.put(GOES, plane, going, width), room.sums),
    rest: (row, rows) => {
      own.meansOfRow(width, radius, rows, room.padded, room.at(OUT));
      room.take(OUT, out, row, width);
    },
  });
}
