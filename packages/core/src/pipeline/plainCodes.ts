// Plain recolours straight from codes to codes: no plane of light is made of what no matte selects.
import type { Program } from '../recolour/program.ts';
import { matricesOf, recolouredEdge } from '../recolour/recolourInto.ts';
import { ALPHA, CodeBlocks, LIGHT } from './codeBlocks.ts';
import { ownEdgeOf } from './edgeOf.ts';
import { encodeBlock, encodePixelsInto, type Encoder } from './encodeBlock.ts';
import type { CodePicture } from './picture.ts';
import type { PlainRecolour } from './plainFrame.ts';
import type { SourceFrame, Tables } from './sourceFrame.ts';

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
function recolourBlocks(blocks: CodeBlocks, alpha: Float32Array, program: Program, encoder: Encoder): void {
  const { own } = blocks;
  for (const block of blocks.blocks()) {
    const { floats } = blocks;
    floats.fill(0, (ALPHA >> 2) + block.count - 4, (ALPHA >> 2) + block.count);
    floats.set(alpha.subarray(block.start, block.end), ALPHA >> 2);
    if (!own.anyAbove0(block.count, ALPHA)) continue;
    blocks.light(block, 'selected');
    own.recolour(block.count, ...LIGHT, ALPHA, program.strength, own.floats(matricesOf(program)));
    encodeBlock(blocks, block, encoder);
    blocks.takeBack(block);
  }
}
/** The pixels of the matte's edge, in which the piece's own colour is what is recoloured. */
function edgeInto(
  out: CodePicture,
  source: SourceFrame,
  alpha: Float32Array,
  program: Program,
  encoder: Encoder,
): void {
  const edge = ownEdgeOf(source, alpha, undefined);
  if (!edge) return;
  const { light } = recolouredEdge(source.lightAt(edge.index), alpha, program, edge);
  encodePixelsInto(out, edge.index, light, encoder);
}
