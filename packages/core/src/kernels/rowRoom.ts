// Planes through a kernel, row by row.
import { SAMPLES, type Kernels } from './module.ts';

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
