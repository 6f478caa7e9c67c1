// Codes of light, where it is not as it came in.
import type { Encoding } from '../colour/encoding.ts';
import { gatheredLight, type LinearPlanes } from '../colour/planes.ts';
import { ALPHA, CodeBlocks, LIGHT } from './codeBlocks.ts';
import { encodeBlock, encodePixelsInto, type Encoder } from './encodeBlock.ts';
import type { CodePicture } from './picture.ts';
import type { Tables } from './sourceFrame.ts';

const CHANNELS = ['r', 'g', 'b'] as const;

/** A copy of a picture with the touched pixels, their indices ascending, encoded anew from linear BT.709 light. */
export function encodedWhere(
  codes: CodePicture,
  linear: LinearPlanes,
  touched: Uint32Array,
  encoding: Encoding,
  tables: Tables,
): CodePicture {
  const out = { ...codes, r: codes.r.slice(), g: codes.g.slice(), b: codes.b.slice() };
  const encoder = { encoding, encode: tables.encode(encoding) };
  const blocks = CodeBlocks.of(out, encoding, tables.decode);
  if (blocks) encodeBlocks(blocks, linear, touched, encoder);
  else encodePixelsInto(out, touched, gatheredLight(linear, touched), encoder);
  return out;
}

function encodeBlocks(blocks: CodeBlocks, linear: LinearPlanes, touched: Uint32Array, encoder: Encoder): void {
  let first = 0;
  for (const block of blocks.blocks()) {
    const { start, end, count } = block;
    const next = endBefore(touched, first, end);
    if (next === first) continue;
    const { floats } = blocks;
    floats.fill(0, ALPHA >> 2, (ALPHA >> 2) + count);
    for (let k = first; k < next; k++) floats[(ALPHA >> 2) + touched[k]! - start] = 1;
    for (let c = 0; c < 3; c++) floats.set(linear[CHANNELS[c]!].subarray(start, end), LIGHT[c]! >> 2);
    blocks.codes(block);
    encodeBlock(blocks, block, encoder);
    blocks.takeBack(block);
    first = next;
  }
}
/** Where in ascending indices, from a place on, the first stands that is `end` or more. */
function endBefore(indices: Uint32Array, from: number, end: number): number {
  let at = from;
  while (at < indices.length && indices[at]! < end) at++;
  return at;
}
