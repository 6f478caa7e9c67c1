import { srgbCodeFromLinear } from '../colour/encoding.ts';
import type { OklabPlanes } from '../colour/oklabPlanes.ts';
import type { EncodedPlanes, LinearPlanes } from '../colour/planes.ts';
import { lumaOf } from '../key/lumaKey.ts';

/** OKLab a, b at the rim of the field: what BT.709 reaches, with room. */
export const FIELD_REACH = 0.32;
/** Cells of the field either way, and bins of a histogram over 0..1. */
export const FIELD_SIZE = 128;
export const HISTOGRAM_BINS = 64;

export interface ColourDensity {
  size: number;
  reach: number;
  /** `size × size` RGBA, b upwards: mean colour (sRGB) of the pixels of a cell, the more opaque the more there are. */
  rgba: Uint8ClampedArray<ArrayBuffer>;
  /** Counts over OKLab L, and over the encoded values, 0..1. */
  lightness: number[];
  encoded: { red: number[]; green: number[]; blue: number[]; luma: number[] };
}

const emptyHistogram = (): number[] => new Array<number>(HISTOGRAM_BINS).fill(0);
const binOf = (value: number): number => Math.min(Math.max(Math.floor(value * HISTOGRAM_BINS), 0), HISTOGRAM_BINS - 1);

/** Which cell of the field a colour lies in; undefined outside it. */
function cellOf(a: number, b: number): number | undefined {
  const x = Math.floor(((a / FIELD_REACH + 1) / 2) * FIELD_SIZE);
  const y = Math.floor(((1 - b / FIELD_REACH) / 2) * FIELD_SIZE);
  return x < 0 || y < 0 || x >= FIELD_SIZE || y >= FIELD_SIZE ? undefined : y * FIELD_SIZE + x;
}

/** A picture's colours as a cloud over OKLab's a, b plane, with histograms; every second pixel is looked at. */
export function colourDensity(
  { L, a, b }: OklabPlanes,
  { r: er, g: eg, b: eb }: EncodedPlanes,
  linear: LinearPlanes,
): ColourDensity {
  const sums = new Float32Array(FIELD_SIZE * FIELD_SIZE * 4);
  const lightness = emptyHistogram();
  const [red, green, blue, luma] = [emptyHistogram(), emptyHistogram(), emptyHistogram(), emptyHistogram()];
  for (let i = 0; i < L.length; i += 2) {
    lightness[binOf(L[i]!)]!++;
    red[binOf(er[i]!)]!++;
    green[binOf(eg[i]!)]!++;
    blue[binOf(eb[i]!)]!++;
    luma[binOf(lumaOf(er[i]!, eg[i]!, eb[i]!))]!++;
    const cell = cellOf(a[i]!, b[i]!);
    if (cell === undefined) continue;
    sums[4 * cell]! += linear.r[i]!;
    sums[4 * cell + 1]! += linear.g[i]!;
    sums[4 * cell + 2]! += linear.b[i]!;
    sums[4 * cell + 3]!++;
  }
  const rgba = new Uint8ClampedArray(sums.length);
  for (let j = 0; j < sums.length; j += 4) {
    const n = sums[j + 3]!;
    if (n === 0) continue;
    for (let c = 0; c < 3; c++) rgba[j + c] = 255 * srgbCodeFromLinear(sums[j + c]! / n);
    rgba[j + 3] = 90 + 165 * Math.min(Math.log1p(n) / 5, 1);
  }
  return { size: FIELD_SIZE, reach: FIELD_REACH, rgba, lightness, encoded: { red, green, blue, luma } };
}
