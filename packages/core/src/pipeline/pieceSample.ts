// What is measured of a piece on a frame and no recolour changes: by it the piece is measured again without the frame.
import type { Balance } from '../document/balance.ts';
import type { Encoding } from '../colour/encoding.ts';
import { gatheredPlane, type LinearPlanes } from '../colour/planes.ts';
import { measurePixels, piecePixelsOf } from '../measure/measurePiece.ts';
import type { EdgeColours } from '../recolour/edgeColours.ts';
import type { Program } from '../recolour/program.ts';
import { recolourInto } from '../recolour/recolourInto.ts';
import { ownEdgeOf } from './edgeOf.ts';
import { clippingOf, measureAfter, unclippedAmong, type SightingMeasurement } from './measureSighting.ts';
import type { CodePicture } from './picture.ts';
import { edgeAmong } from './plainFrame.ts';
import { codesAt, sourceFrame, type SourceFrame, type Tables } from './sourceFrame.ts';

/** A piece's solid pixels as they came in, for recolours that look no further (`looksFurther`) and meet no other. */
export interface PieceSample extends Pick<SightingMeasurement, 'before' | 'coverage'> {
  /** The pixels with α ≥ 0.9, side by side in one row, and their α. */
  codes: CodePicture;
  alpha: Float32Array;
  /** Which of them are clipped in the source, ascending. */
  clipped: Uint32Array;
  /** The piece's own colour at those of them that its soft edge takes in. */
  edge: EdgeColours | undefined;
}

/** Undefined where there is nothing to measure. `source` may be a part of a frame, `coverage` is of the whole of it. */
export function pieceSampleOf(source: SourceFrame, matte: Float32Array, coverage: number): PieceSample | undefined {
  const pixels = piecePixelsOf(matte, clippingOf(source.codes));
  const { solid } = pixels;
  const alpha = gatheredPlane(matte, solid);
  const unclipped = unclippedAmong(pixels);
  const before = measurePixels(source.lightAt(solid), alpha, { solid, unclipped });
  if (!before) return undefined;
  const edge = ownEdgeOf(source, matte, undefined);
  return {
    before,
    coverage,
    codes: codesAt(source.codes, solid),
    alpha,
    clipped: othersThan(unclipped, solid.length),
    edge: edge && edgeAmong(edge, solid),
  };
}

/** What the codes of a shot mean. */
interface Footage {
  encoding: Encoding;
  balance?: Balance | undefined;
}
/** A sample measured under some recolours, each to the bit as `measureSighting` finds it on the frame. */
export function measureSample(
  sample: PieceSample,
  { encoding, balance }: Footage,
  programs: readonly Program[],
  tables: Tables,
): SightingMeasurement[] {
  const { before, coverage, codes, alpha } = sample;
  const from = sourceFrame(codes, encoding, 1, tables, { balance }).linear();
  const unclipped = othersThan(sample.clipped, alpha.length);
  return programs.map((program) => {
    const light = recoloured(from, sample, program, tables);
    return { before, coverage, after: measureAfter({ light, alpha, unclipped }, encoding) };
  });
}

function recoloured(
  { r, g, b }: LinearPlanes,
  { alpha, edge }: PieceSample,
  program: Program,
  { root }: Tables,
): LinearPlanes {
  const light = { r: r.slice(), g: g.slice(), b: b.slice() };
  if (program.strength !== 0 && !program.isNeutral) recolourInto(light, alpha, program, root, edge);
  return light;
}

/** The numbers under `length` that are not among these, which ascend. */
function othersThan(these: Uint32Array, length: number): Uint32Array {
  const others = new Uint32Array(length - these.length);
  for (let i = 0, n = 0, k = 0; i < length; i++)
    if (these[k] === i) k++;
    else others[n++] = i;
  return others;
}
