/**
 * A smooth function of positive numbers, tabulated piecewise linearly with the same number of steps in every octave,
 * so that its *relative* error is even from the deepest shadow to the highlights. The step is read off the bits of
 * the float (IEEE 754 binary32): no logarithm, no search.
 */
export interface TableRange {
  /** Smallest and largest power of two covered: 2^minExponent ≤ x < 2^maxExponent. */
  minExponent: number;
  maxExponent: number;
  /** Steps in an octave are 2^stepBits. For a power law the relative error is about 2^(−2·stepBits) / 8. */
  stepBits: number;
}

/** Light from 2^−24 (below one 16-bit code of linear light) to 16 times white; error about 5e-7. */
export const UNIT_OCTAVES: TableRange = { minExponent: -24, maxExponent: 4, stepBits: 9 };

const MANTISSA_BITS = 23;
const EXPONENT_BIAS = 127;

export class LookupTable {
  readonly #values: Float64Array;
  readonly #base: number;
  readonly #shift: number;
  readonly #mask: number;
  readonly #scale: number;
  readonly #min: number;
  readonly #max: number;
  readonly #exact: (x: number) => number;
  readonly #float = new Float32Array(1);
  readonly #bits = new Uint32Array(this.#float.buffer);

  constructor(exact: (x: number) => number, range: TableRange) {
    this.#exact = exact;
    this.#shift = MANTISSA_BITS - range.stepBits;
    this.#mask = 2 ** this.#shift - 1;
    this.#scale = 2 ** -this.#shift;
    this.#base = (range.minExponent + EXPONENT_BIAS) << range.stepBits;
    this.#min = 2 ** range.minExponent;
    this.#max = 2 ** range.maxExponent;
    const steps = (range.maxExponent - range.minExponent) << range.stepBits;
    this.#values = Float64Array.from({ length: steps + 1 }, (_, i) => {
      this.#bits[0] = (this.#base + i) << this.#shift;
      return exact(this.#float[0]!);
    });
  }

  /** The function at `x`; outside the tabulated range, zero and negatives included, the exact function itself. */
  at(x: number): number {
    if (!(x >= this.#min && x < this.#max)) return this.#exact(x);
    this.#float[0] = x;
    const bits = this.#bits[0]!;
    const i = (bits >>> this.#shift) - this.#base;
    const below = this.#values[i]!;
    return below + (this.#values[i + 1]! - below) * ((bits & this.#mask) * this.#scale);
  }
}
