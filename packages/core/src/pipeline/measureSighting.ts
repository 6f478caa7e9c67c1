import { clampToCodes, pastEnds, type Encoding } from '../colour/encoding.ts';
import type { LinearPlanes } from '../colour/planes.ts';
import { coverageOf } from '../measure/coverage.ts';
import { MEASURED_ALPHA, measurePiece, type Measurement } from '../measure/measurePiece.ts';
import { maxCodeOf, type CodePicture } from './picture.ts';
import type { RecolouredFrame } from './renderFrame.ts';
import type { SourceFrame } from './sourceFrame.ts';

/** A sighting measured on one frame. */
export interface SightingMeasurement {
  /** The piece's colour in the source. `clippedShare`: of its pixels, those whose source has no more to give. */
  before: Measurement;
  /** The same after the recolour. `clippedShare`: those that the recolour has driven past the end of the code range. */
  after: Measurement;
  /** How much of what looks like the piece is selected; see measure/coverage. */
  coverage: number;
}

/**
 * The piece's colour in the source and after the recolour, from the same pixels: those clipped in the source are left
 * out of both. `known` is what has been measured of the same matte already. Undefined where there is nothing to
 * measure.
 */
export function measureSighting(
  source: SourceFrame,
  recoloured: RecolouredFrame,
  index: number,
  known?: Partial<Pick<SightingMeasurement, 'before' | 'coverage'>>,
): SightingMeasurement | undefined {
  const isClipped = clippingOf(source.codes);
  const alpha = recoloured.mattes[index]!;
  const before = known?.before ?? measurePiece(source.linear(), alpha, isClipped);
  const encoded = asEncoded(recoloured.linear, alpha, source.encoding);
  const after = measurePiece(encoded, alpha, isClipped, recoloured.sheens[index]);
  if (!before || !after) return undefined;
  const { width, height } = source.codes;
  const coverage = known?.coverage ?? coverageOf(source.oklab(), alpha, width, height);
  const clippedShare = clippedByRecolour(recoloured.linear, alpha, source.encoding);
  return { before, after: { ...after, clippedShare }, coverage };
}

/** The light of a piece as its codes will hold it: what lies past either end is cut off. Other pixels are left. */
function asEncoded(linear: LinearPlanes, alpha: Float32Array, encoding: Encoding): LinearPlanes {
  const isPast = pastEnds(encoding, 0);
  const clamp = clampToCodes(encoding);
  const out: LinearPlanes = { r: linear.r.slice(), g: linear.g.slice(), b: linear.b.slice() };
  for (let i = 0; i < alpha.length; i++) {
    if (alpha[i]! < MEASURED_ALPHA || !isPast(linear.r[i]!, linear.g[i]!, linear.b[i]!)) continue;
    [out.r[i], out.g[i], out.b[i]] = clamp([linear.r[i]!, linear.g[i]!, linear.b[i]!]);
  }
  return out;
}

/** Half an 8-bit code past either end: nearer is rounding. */
const PAST = 0.5 / 255;

/** Of the pixels with α ≥ 0.9, the share that some channel's code would lie beyond 0..1 and is cut off when encoded. */
function clippedByRecolour({ r, g, b }: LinearPlanes, alpha: Float32Array, encoding: Encoding): number {
  const isPast = pastEnds(encoding, PAST);
  let [clipped, all] = [0, 0];
  for (let i = 0; i < alpha.length; i++) {
    if (alpha[i]! < MEASURED_ALPHA) continue;
    all++;
    if (isPast(r[i]!, g[i]!, b[i]!)) clipped++;
  }
  return all === 0 ? 0 : clipped / all;
}

/** Tells whether a pixel's code sits at the end of its range: any channel at the top, or all at the bottom. */
export function clippingOf({ r, g, b }: CodePicture): (index: number) => boolean {
  const top = maxCodeOf(r);
  return (i) => r[i]! >= top || g[i]! >= top || b[i]! >= top || (r[i] === 0 && g[i] === 0 && b[i] === 0);
}
