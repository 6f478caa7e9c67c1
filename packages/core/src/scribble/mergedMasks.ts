import type { CarriedMask } from '../document/carried.ts';
import { nearestSamples } from './preparedPicture.ts';
import { signedDistance } from './signedDistance.ts';

/** A mask and how much it counts, 0..1. */
export interface WeighedMask {
  mask: CarriedMask;
  weight: number;
}
/** Beyond this distance from its outline a mask says no more, pixels. */
const FAR = 24;

/**
 * One mask of several, at a size: where they differ, the outline lies between theirs, nearer to that of the mask that
 * counts for more (interpolation of signed distances: S. Raya, J. Udupa, "Shape-based interpolation of multidimensional
 * objects", 1990). 0 or 1; undefined of none.
 */
export function mergedMasks(masks: readonly WeighedMask[], width: number, height: number): Float32Array | undefined {
  const planes = masks
    .filter((m) => m.weight > 0)
    .map(({ mask, weight }) => ({ plane: resized(mask, width, height), weight }));
  if (planes.length === 0) return undefined;
  if (planes.length === 1) return planes[0]!.plane;
  const sum = new Float32Array(width * height);
  for (const { plane, weight } of planes) {
    const distance = signedDistance(plane, width, height);
    for (let i = 0; i < sum.length; i++) sum[i]! += weight * Math.min(Math.max(distance[i]!, -FAR), FAR);
  }
  for (let i = 0; i < sum.length; i++) sum[i] = sum[i]! > 0 ? 1 : 0;
  return sum;
}

/** A mask at another size, nearest samples. */
function resized({ width, height, inside }: CarriedMask, toWidth: number, toHeight: number): Float32Array {
  const out = new Float32Array(toWidth * toHeight);
  const across = nearestSamples(toWidth, width);
  const down = nearestSamples(toHeight, height);
  for (let y = 0, i = 0; y < toHeight; y++)
    for (let x = 0, row = down[y]! * width; x < toWidth; x++, i++) out[i] = inside[row + across[x]!]!;
  return out;
}
