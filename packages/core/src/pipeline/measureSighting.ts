import { clampToCodes, pastEnds, type Encoding } from '../colour/encoding.ts';
import { gatheredPlane, type LinearPlanes } from '../colour/planes.ts';
import { coverageOf } from '../measure/coverage.ts';
import {
  measurePixels,
  piecePixelsOf,
  type Measurement,
  type PiecePixels,
  type SheenShown,
} from '../measure/measurePiece.ts';
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

/** What is known of a matte already, whatever becomes of the piece. */
export type MeasuredSource = Pick<SightingMeasurement, 'before' | 'coverage'> & { pixels: PiecePixels };

/**
 * What can be told of a sighting without its recolour; undefined where there is nothing to measure. `coverage`: where
 * that is known already, because `source` is a part of a frame.
 */
export function measureSource(source: SourceFrame, alpha: Float32Array, coverage?: number): MeasuredSource | undefined {
  const pixels = piecePixelsOf(alpha, clippingOf(source.codes));
  const before = measurePixels(source.linear(), alpha, pixels);
  const { width, height } = source.codes;
  return before && { before, pixels, coverage: coverage ?? coverageOf(source.oklab(), alpha, width, height) };
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
  known = measureSource(source, recoloured.mattes[index]!),
): SightingMeasurement | undefined {
  if (!known) return undefined;
  const { before, coverage, pixels } = known;
  const { solid } = pixels;
  const shown = {
    light: recoloured.lightAt(solid),
    alpha: gatheredPlane(recoloured.mattes[index]!, solid),
    unclipped: unclippedAmong(pixels),
  };
  return { before, coverage, after: measureAfter(shown, source.encoding, sheenAt(recoloured.sheens[index], solid)) };
}
const sheenAt = (sheen: SheenShown | undefined, pixels: Uint32Array): SheenShown | undefined =>
  sheen && { ...sheen, luminance: gatheredPlane(sheen.luminance, pixels) };

/** A piece's pixels with α ≥ 0.9 alone, side by side. */
interface SolidPixels {
  light: LinearPlanes;
  alpha: Float32Array;
  /** Which of them are not clipped in the source, ascending; one at least. */
  unclipped: Uint32Array;
}
/** Which of a piece's solid pixels are not clipped, by their number among them. */
export function unclippedAmong({ solid, unclipped }: PiecePixels): Uint32Array {
  const places = new Uint32Array(unclipped.length);
  for (let k = 0, n = 0; n < places.length; k++) if (solid[k] === unclipped[n]) places[n++] = k;
  return places;
}

/** Half an 8-bit code past either end: nearer is rounding. */
const PAST = 0.5 / 255;
/** Recoloured pixels as their codes will hold them: what these cannot hold is cut off in `light`, in place. */
export function measureAfter({ light, alpha, unclipped }: SolidPixels, encoding: Encoding, sheen?: SheenShown) {
  const { r, g, b } = light;
  const isPast = pastEnds(encoding, 0);
  const isClipped = pastEnds(encoding, PAST);
  const clamp = clampToCodes(encoding);
  let clipped = 0;
  for (let k = 0; k < r.length; k++) {
    if (!isPast(r[k]!, g[k]!, b[k]!)) continue;
    if (isClipped(r[k]!, g[k]!, b[k]!)) clipped++;
    [r[k], g[k], b[k]] = clamp([r[k]!, g[k]!, b[k]!]);
  }
  const measured: Measurement = measurePixels(light, alpha, { solid: alpha, unclipped }, sheen)!;
  return { ...measured, clippedShare: clipped / r.length };
}

/** Tells whether a pixel's code sits at the end of its range: any channel at the top, or all at the bottom. */
export function clippingOf({ r, g, b }: CodePicture): (index: number) => boolean {
  const top = maxCodeOf(r);
  return (i) => r[i]! >= top || g[i]! >= top || b[i]! >= top || (r[i] === 0 && g[i] === 0 && b[i] === 0);
}
