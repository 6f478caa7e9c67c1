// Samples two by two: most of a matte is 0, and two floats that are 0 are one double that is.

/** A plane as half as many doubles; one that does not begin on a round address is copied. */
export function pairsOf(plane: Float32Array): Float64Array {
  const { buffer, byteOffset, length } = plane.byteOffset % 8 === 0 ? plane : plane.slice();
  return new Float64Array(buffer, byteOffset, length >> 1);
}

/** Where a plane is 0. */
export class Zeros {
  readonly #plane: Float32Array;
  readonly #pairs: Float64Array;
  constructor(plane: Float32Array) {
    this.#plane = plane;
    this.#pairs = pairsOf(plane);
  }
  /** Are all samples from an even place on, up to another one, 0? */
  are(from: number, to: number): boolean {
    const behind = behindZeros(this.#pairs, from, to);
    return behind === to || (behind === to - 1 && this.#plane[behind] === 0);
  }
}

/** Behind the zeros that begin at a sample, as far as they come in whole pairs, or `end` at the most. */
export function behindZeros(pairs: Float64Array, from: number, end: number): number {
  if (from % 2 === 1) return from;
  let k = from >> 1;
  const last = end >> 1;
  while (k < last && pairs[k] === 0) k++;
  return 2 * k;
}
