import { kernels, SAMPLES, type Kernels } from '../kernels/module.ts';

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

/**
 * Room in the kernels' memory for rows of a picture, all of zeros, and behind them for sums of its columns with
 * `perColumn` doubles each. The row of this number begins at `at(number)`.
 */
export class RowRoom {
  /** Sums with the zeros before them, and those of the first column on: addresses. */
  readonly padded: number;
  readonly sums: number;
  readonly #memory: Float32Array;
  readonly #stride: number;

  constructor(own: Kernels, width: number, radius: number, rows: number, perColumn: number) {
    // a row ends with room for what is rounded up
    this.#stride = 4 * ((width + 7) & ~3);
    this.padded = SAMPLES + rows * this.#stride;
    this.sums = this.padded + 8 * perColumn * (radius + 1);
    const end = this.padded + 8 * perColumn * (width + 2 * radius + 2);
    this.#memory = own.samples(end);
    this.#memory.fill(0, SAMPLES / 4, end / 4);
  }
  at = (row: number): number => SAMPLES + row * this.#stride;
  /** Puts a row of a plane where it is found; gives its address. For −1 that of a row of zeros, number 0. */
  put(row: number, plane: Float32Array, from: number, width: number): number {
    if (from < 0) return this.at(0);
    this.#memory.set(plane.subarray(from, from + width), this.at(row) / 4);
    return this.at(row);
  }
  /** Copies a row into a plane. */
  take(row: number, plane: Float32Array, to: number, width: number): void {
    const from = this.at(row) / 4;
    plane.set(this.#memory.subarray(from, from + width), to);
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
