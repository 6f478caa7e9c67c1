import type { CarriedMask } from '../document/carried.ts';
import { boundsOfMatte, boxAround, cutOut, putBack } from '../matte/bounds.ts';
import { nearestSamples } from './preparedPicture.ts';
import { signedDistance } from './signedDistance.ts';

/** A mask and how much it counts, 0..1. */
export interface WeighedMask {
  mask: CarriedMask;
  weight: number;
}
/** Two outlines no farther apart, pixels, are one that has moved; beyond that the masks see different things. */
const SAME_OUTLINE_PX = 14;

/**
 * One mask of several, at a size. Where their outlines differ a little, it runs between them, nearer to that of the
 * mask that counts for more (after S. Raya, J. Udupa, "Shape-based interpolation of multidimensional objects", 1990).
 * A hole, a limb or a region that only one has is as the mask has it that counts for more. 0 or 1; undefined of none.
 */
export function mergedMasks(masks: readonly WeighedMask[], width: number, height: number): Float32Array | undefined {
  const [first, ...rest] = masks.filter((m) => m.weight > 0).sort((a, b) => b.weight - a.weight);
  if (!first) return undefined;
  const merged = resized(first.mask, width, height);
  let weight = first.weight;
  for (const other of rest) {
    mergeInto(merged, resized(other.mask, width, height), other.weight / (weight + other.weight), width, height);
    weight += other.weight;
  }
  return merged;
}

/** Into the mask that counts for more; `share`: how much of both the other counts for, up to a half. */
function mergeInto(mask: Float32Array, other: Float32Array, share: number, width: number, height: number): void {
  const differing = boundsOfMatte(
    mask.map((m, i) => (m === other[i] ? 0 : 1)),
    width,
    height,
  );
  if (!differing) return;
  // as far round about as the other side of a strip can lie
  const box = boxAround(differing, SAME_OUTLINE_PX, width, height);
  const [own, others] = [cutOut(mask, width, box), cutOut(other, width, box)];
  const [w, h] = [box.x1 - box.x0, box.y1 - box.y0];
  const toIn = signedDistance(
    own.map((m, i) => Math.min(m, others[i]!)),
    w,
    h,
  );
  const toOut = signedDistance(
    own.map((m, i) => Math.max(m, others[i]!)),
    w,
    h,
  );
  for (let i = 0; i < own.length; i++) {
    if (own[i] === others[i]) continue;
    // across the strip between the two outlines; of a hole or a limb, as far as it is from one side and the other
    const across = toOut[i]! - toIn[i]!;
    if (across > SAME_OUTLINE_PX) continue;
    const fromOwn = own[i] === 1 ? toOut[i]! : -toIn[i]!;
    if (fromOwn < share * across) own[i] = others[i]!;
  }
  putBack(mask, width, own, box);
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
