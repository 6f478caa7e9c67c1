// Codes through the kernels, block by block: their light is made in the kernels' memory, and nowhere else.
import { gamutOf, type Encoding } from '../colour/encoding.ts';
import { BLOCK, blockOf, bytesOf, PLANES } from '../kernels/blocks.ts';
import { kernels, type Kernels } from '../kernels/module.ts';
import { maxCodeOf, type CodePicture, type DecodeTables } from './picture.ts';

/** Planes of the kernels' memory: light, α, codes, and one more to work with. */
export const LIGHT = [blockOf(0), blockOf(1), blockOf(2)] as const;
export const ALPHA = blockOf(3);
export const CODES = [blockOf(4), blockOf(5), blockOf(6)] as const;
export const SPARE = blockOf(7);
const CHANNELS = ['r', 'g', 'b'] as const;

export interface CodeBlock {
  /** First pixel, and the one behind the last. */
  start: number;
  end: number;
  /** Samples that a kernel is told of: a multiple of 4. */
  count: number;
}

/** A picture of integer codes as the kernels take it. */
export class CodeBlocks {
  readonly own: Kernels;
  readonly #picture: CodePicture;
  readonly #table: number;
  readonly #to709: readonly number[] | undefined;

  private constructor(own: Kernels, picture: CodePicture, encoding: Encoding, decode: DecodeTables) {
    this.own = own;
    this.#picture = picture;
    this.#table = own.table('decode', decode(encoding, maxCodeOf(picture.r)));
    this.#to709 = gamutOf(encoding)?.to709;
  }
  /** Undefined where there are no kernels, and of floats. */
  static of(picture: CodePicture, encoding: Encoding, decode: DecodeTables): CodeBlocks | undefined {
    const own = kernels();
    if (!own || picture.r instanceof Float32Array) return undefined;
    return new CodeBlocks(own, picture, encoding, decode);
  }
  /** The kernels' memory, as it is now: it may have grown since. */
  get floats(): Float32Array {
    return this.own.samples(blockOf(PLANES));
  }
  get bytesPerCode(): number {
    return this.#picture.r.BYTES_PER_ELEMENT;
  }
  *blocks(): Generator<CodeBlock> {
    const { length } = this.#picture.r;
    for (let start = 0; start < length; start += BLOCK) {
      const end = Math.min(start + BLOCK, length);
      yield { start, end, count: (end - start + 3) & ~3 };
    }
  }
  /** Puts a block's codes in their place. */
  codes({ start, end }: CodeBlock): void {
    const bytes = new Uint8Array(this.floats.buffer);
    for (let k = 0; k < 3; k++) bytes.set(bytesOf(this.#picture[CHANNELS[k]!], start, end), CODES[k]);
  }
  /**
   * Puts a block's codes in their place, and linear BT.709 light of them in that of the light: of all, or of those near
   * which α is above 0; the rest is then of no use.
   */
  light(block: CodeBlock, of: 'all' | 'selected' = 'all'): void {
    this.codes(block);
    const { count } = block;
    const toLight = this.bytesPerCode === 1 ? this.own.lightOf8 : this.own.lightOf16;
    for (let k = 0; k < 3; k++) toLight(count, CODES[k]!, this.#table, of === 'all' ? 0 : ALPHA, LIGHT[k]!);
    if (this.#to709) this.own.mix(count, ...LIGHT, this.own.doubles(this.#to709));
  }
  /** Takes a block's codes back into the picture. */
  takeBack({ start, end }: CodeBlock): void {
    const bytes = new Uint8Array(this.floats.buffer);
    for (let k = 0; k < 3; k++) {
      const own = bytes.subarray(CODES[k], CODES[k]! + (end - start) * this.bytesPerCode);
      bytesOf(this.#picture[CHANNELS[k]!], start, end).set(own);
    }
  }
}
