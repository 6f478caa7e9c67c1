// Light encoded in place: in the kernels' memory block by block, or pixel by pixel.
import { encodedFromLinear709, gamutOf, type Encoding } from '../colour/encoding.ts';
import type { Lookup } from '../colour/lookupTable.ts';
import { gatheredPlane, type LinearPlanes } from '../colour/planes.ts';
import { ALPHA, CODES, LIGHT, SPARE, type CodeBlock, type CodeBlocks } from './codeBlocks.ts';
import { codesFromEncoded, type CodePicture } from './picture.ts';

const CHANNELS = ['r', 'g', 'b'] as const;

export interface Encoder {
  encoding: Encoding;
  encode: Lookup;
}

/** The codes of a block's linear BT.709 light where α is above 0, in place of those that stand there. */
export function encodeBlock(blocks: CodeBlocks, { count }: CodeBlock, { encoding, encode }: Encoder): void {
  const { own } = blocks;
  const gamut = gamutOf(encoding);
  if (gamut) own.mix(count, ...LIGHT, own.doubles(gamut.from709));
  const table = own.table('encode', encode.steps.pairs);
  for (let k = 0; k < 3; k++) encodeChannel(blocks, count, k, encode, table);
}

/** Codes of a block's light where α is above 0; what its table does not hold is computed one by one. */
function encodeChannel(
  { own, bytesPerCode }: CodeBlocks,
  count: number,
  k: number,
  encode: Lookup,
  table: number,
): void {
  const { pairs, first, shift } = encode.steps;
  const [steps, maxCode] = [pairs.length / 2, bytesPerCode === 1 ? 255 : 65535];
  const left = own.codes(count, LIGHT[k]!, ALPHA, table, first, steps, shift, maxCode, CODES[k]!, SPARE);
  if (left === 0) return;
  const { buffer } = own.memory;
  const indices = new Uint32Array(buffer, SPARE, left);
  const encoded = new Float32Array(left);
  encode.into(encoded, gatheredPlane(new Float32Array(buffer, LIGHT[k], count), indices));
  const Plane = bytesPerCode === 1 ? Uint8Array : Uint16Array;
  const into = new Plane(buffer, CODES[k], count);
  const codes = codesFromEncoded(into, encoded);
  for (let m = 0; m < left; m++) into[indices[m]!] = codes[m]!;
}

/** Puts the codes of some pixels' linear BT.709 light, given in the order of their indices, in their place. */
export function encodePixelsInto(
  out: CodePicture,
  index: Uint32Array,
  light: LinearPlanes,
  { encoding, encode }: Encoder,
): void {
  const encoded = encodedFromLinear709(light, encoding, encode);
  for (const c of CHANNELS) {
    const codes = codesFromEncoded(out[c], encoded[c]);
    for (let k = 0; k < index.length; k++) out[c][index[k]!] = codes[k]!;
  }
}
