// Plain recolours straight from codes to codes: no plane of light is made of what no matte selects.
import { encodedFromLinear709, gamutOf, type Encoding } from '../colour/encoding.ts';
import type { Lookup } from '../colour/lookupTable.ts';
import { gatheredPlane } from '../colour/planes.ts';
import type { Program } from '../recolour/program.ts';
import { matricesOf, recolouredEdge } from '../recolour/recolourInto.ts';
import { ALPHA, CodeBlocks, CODES, LIGHT, SPARE } from './codeBlocks.ts';
import { ownEdgeOf } from './edgeOf.ts';
import { codesFromEncoded, type CodePicture } from './picture.ts';
import type { PlainRecolour } from './plainFrame.ts';
import type { SourceFrame, Tables } from './sourceFrame.ts';

const CHANNELS = ['r', 'g', 'b'] as const;

/**
 * The codes of a frame after its recolours, the same to the bit as by way of planes of light: block by block through
 * the kernels. Undefined where there are none, and for finer tools, floats and balanced shots.
 */
export function plainCodes(
  source: SourceFrame,
  recolours: readonly PlainRecolour[],
  tables: Tables,
): CodePicture | undefined {
  const { codes, encoding } = source;
  if (source.isBalanced || recolours.some(({ program }) => program.finer)) return undefined;
  const out = { ...codes, r: codes.r.slice(), g: codes.g.slice(), b: codes.b.slice() };
  const blocks = CodeBlocks.of(out, encoding, tables.decode);
  if (!blocks) return undefined;
  const encoder = { encoding, encode: tables.encode(encoding) };
  for (const { program, alpha } of recolours) {
    recolourBlocks(blocks, alpha, program, encoder);
    edgeInto(out, source, alpha, program, encoder);
  }
  return out;
}

/** Recolours what a matte selects, which is still as it came in, in place. */
function recolourBlocks(
  blocks: CodeBlocks,
  alpha: Float32Array,
  program: Program,
  { encoding, encode }: Encoder,
): void {
  const { own } = blocks;
  const gamut = gamutOf(encoding);
  const table = own.table('encode', encode.steps.pairs);
  for (const block of blocks.blocks()) {
    const { floats } = blocks;
    floats.fill(0, (ALPHA >> 2) + block.count - 4, (ALPHA >> 2) + block.count);
    floats.set(alpha.subarray(block.start, block.end), ALPHA >> 2);
    if (!own.anyAbove0(block.count, ALPHA)) continue;
    blocks.light(block, 'selected');
    own.recolour(block.count, ...LIGHT, ALPHA, program.strength, own.floats(matricesOf(program)));
    if (gamut) own.mix(block.count, ...LIGHT, own.doubles(gamut.from709));
    for (let k = 0; k < 3; k++) encodeChannel(blocks, block.count, k, encode, table);
    blocks.takeBack(block);
  }
}
interface Encoder {
  encoding: Encoding;
  encode: Lookup;
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

/** The pixels of the matte's edge, in which the piece's own colour is what is recoloured. */
function edgeInto(
  out: CodePicture,
  source: SourceFrame,
  alpha: Float32Array,
  program: Program,
  { encoding, encode }: Encoder,
): void {
  const edge = ownEdgeOf(source, alpha, undefined);
  if (!edge) return;
  const { light } = recolouredEdge(source.lightAt(edge.index), alpha, program, edge);
  const encoded = encodedFromLinear709(light, encoding, encode);
  for (const c of CHANNELS) {
    const codes = codesFromEncoded(out[c], encoded[c]);
    for (let k = 0; k < edge.index.length; k++) out[c][edge.index[k]!] = codes[k]!;
  }
}
