import type { OklabPlanes } from '../colour/oklabPlanes.ts';
import { shrunk } from './resized.ts';
import { superpixelsOf, type Superpixels } from './superpixels.ts';

/**
 * Longest side of the picture that is cut patch by patch, and of the one whose outline is cut pixel by pixel: what is
 * selected hardly depends on the size asked for.
 */
const COARSE_SIDE = 480;
export const FINE_SIDE = 960;

/** A picture at one size. */
export interface SizedPicture {
  width: number;
  height: number;
  oklab: OklabPlanes;
}
/** What selections need of a picture and depends on it alone. */
export interface PreparedPicture {
  coarse: SizedPicture;
  fine: SizedPicture;
  patches: Superpixels;
}
/** Made once for all strokes that come. */
const prepared = new WeakMap<OklabPlanes, PreparedPicture>();

/** The size at which outlines are cut, of a picture of some size: the picture's own where that is smaller. */
export const fineSize = (width: number, height: number): { width: number; height: number } =>
  sizeOf(width, height, FINE_SIDE);

function sizeOf(width: number, height: number, side: number): { width: number; height: number } {
  const ratio = Math.min(side / Math.max(width, height), 1);
  return { width: Math.max(Math.round(width * ratio), 1), height: Math.max(Math.round(height * ratio), 1) };
}

export function preparedPicture(oklab: OklabPlanes, width: number, height: number): PreparedPicture {
  const known = prepared.get(oklab);
  if (known) return known;
  const sized = (side: number): SizedPicture => {
    const size = sizeOf(width, height, side);
    const to = (plane: Float32Array) => shrunk(plane, width, height, size.width, size.height);
    return { ...size, oklab: { L: to(oklab.L), a: to(oklab.a), b: to(oklab.b) } };
  };
  const coarse = sized(COARSE_SIDE);
  const made = { coarse, fine: sized(FINE_SIDE), patches: superpixelsOf(coarse.oklab, coarse.width, coarse.height) };
  prepared.set(oklab, made);
  return made;
}

/** A part of a picture at the fine size, as a picture of its own: cut patch by patch at half its size. */
export function preparedPart(oklab: OklabPlanes, width: number, height: number): PreparedPicture {
  const [w, h] = [Math.max(width >> 1, 1), Math.max(height >> 1, 1)];
  const to = (plane: Float32Array) => shrunk(plane, width, height, w, h);
  const coarse = { width: w, height: h, oklab: { L: to(oklab.L), a: to(oklab.a), b: to(oklab.b) } };
  return { coarse, fine: { width, height, oklab }, patches: superpixelsOf(coarse.oklab, w, h) };
}

/** Which of `from` samples in a row is nearest to each of `to` that cover the same length. */
export function nearestSamples(to: number, from: number): Int32Array {
  return Int32Array.from({ length: to }, (_, i) => Math.floor(((i + 0.5) * from) / to));
}

/** Which patch each pixel of the fine picture lies in. */
export function patchOfEach({ coarse, fine, patches }: PreparedPicture): Int32Array {
  const patch = new Int32Array(fine.width * fine.height);
  const across = nearestSamples(fine.width, coarse.width);
  const down = nearestSamples(fine.height, coarse.height);
  for (let y = 0, i = 0; y < fine.height; y++)
    for (let x = 0, row = down[y]! * coarse.width; x < fine.width; x++, i++)
      patch[i] = patches.labels[row + across[x]!]!;
  return patch;
}
/** The pixels of the patches that are inside. */
export function maskOfPatches(patch: Int32Array, inside: Uint8Array): Float32Array {
  const mask = new Float32Array(patch.length);
  for (let i = 0; i < mask.length; i++) mask[i] = inside[patch[i]!]!;
  return mask;
}
