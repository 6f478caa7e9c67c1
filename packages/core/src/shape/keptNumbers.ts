/** More than this are not kept: 32 MB. */
const MOST_KEPT = 2 ** 22;

/**
 * A number for each pixel to work with, all the same, kept from shape to shape: memory that is new costs more than the
 * work on it. Who uses them sets back what they have set.
 */
export class KeptNumbers {
  readonly #value: number;
  #kept = new Float64Array(0);

  constructor(value: number) {
    this.#value = value;
  }
  /** At least so many; not to be used any more once they are asked for again. */
  of(length: number): Float64Array {
    if (this.#kept.length >= length) return this.#kept;
    const made = new Float64Array(length).fill(this.#value);
    if (length <= MOST_KEPT) this.#kept = made;
    return made;
  }
}
