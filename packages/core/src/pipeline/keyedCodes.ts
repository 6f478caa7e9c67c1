// Keys straight from codes: neither light nor OKLab of the picture is kept.
import type { Encoding } from '../colour/encoding.ts';
import { OKLAB_MATRICES } from '../colour/oklabPlanes.ts';
import type { RangeKey } from '../document/key.ts';
import { rangeKeyNumbers } from '../key/rangeKey.ts';
import { ALPHA, CodeBlocks, LIGHT } from './codeBlocks.ts';
import type { CodePicture, DecodeTables } from './picture.ts';

/** α of a range key, to the bit that of `rangeKeyInto` on the picture's OKLab; false where there are no kernels. */
export function rangeKeyOfCodesInto(
  out: Float32Array,
  codes: CodePicture,
  key: RangeKey,
  encoding: Encoding,
  decode: DecodeTables,
): boolean {
  const blocks = CodeBlocks.of(codes, encoding, decode);
  if (!blocks) return false;
  const { own } = blocks;
  const numbers = [...OKLAB_MATRICES, ...rangeKeyNumbers(key)];
  const hasHue = key.hue.on ? 1 : 0;
  for (const block of blocks.blocks()) {
    blocks.light(block);
    // behind the light, which may have needed other numbers
    const matrices = own.floats(numbers);
    own.rangeKeyOfLight(block.count, ...LIGHT, ALPHA, matrices, matrices + 4 * OKLAB_MATRICES.length, hasHue);
    out.set(blocks.floats.subarray(ALPHA >> 2, (ALPHA >> 2) + block.end - block.start), block.start);
  }
  return true;
}
