import type { Kernels } from './module.ts';
import { RowRoom } from './rowRoom.ts';

/** What a kernel reads and writes past the end of a row, samples. */
const PAST = 16;
/** Rows of a picture in the kernels' memory, so many one after the other, as far as they have been brought. */
export class RowsInTurn {
  /** Rows to work in and to write to: addresses. */
  readonly spare: number;
  readonly out: number;
  readonly #room: RowRoom;
  readonly #plane: Float32Array;
  readonly #width: number;
  readonly #height: number;
  readonly #count: number;
  #brought = 0;

  constructor(own: Kernels, plane: Float32Array, width: number, height: number, count: number) {
    this.#plane = plane;
    this.#width = width;
    this.#height = height;
    this.#count = count;
    this.#room = new RowRoom(own, width + PAST, 0, count + 2, 0);
    this.spare = this.#room.at(count);
    this.out = this.#room.at(count + 1);
  }
  /** Brings what is missing up to this row, as far as there are rows. */
  bring(to: number): void {
    for (; this.#brought <= to && this.#brought < this.#height; this.#brought++)
      this.#room.put(this.#brought % this.#count, this.#plane, this.#brought * this.#width, this.#width);
  }
  /** Address of a row; beyond the picture that of its first or last. */
  at(row: number): number {
    return this.#room.at(Math.min(Math.max(row, 0), this.#height - 1) % this.#count);
  }
  /** Copies what was written. */
  take(plane: Float32Array, to: number, width: number): void {
    this.#room.take(this.#count + 1, plane, to, width);
  }
}
