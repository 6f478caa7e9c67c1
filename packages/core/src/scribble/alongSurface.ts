import { patchOfEach, type PreparedPicture } from './preparedPicture.ts';

/** What the shortest step costs: also a smooth way is long some time, OKLab. */
const LEAST_STEP = 0.0002;
/** Ways are gone on with in order of their length, by so much at once. */
const AT_ONCE = 0.0005;
/** A pixel's neighbours, the four beside it first. */
const ACROSS = [1, -1, 0, 0, 1, -1, 1, -1];
const DOWN = [0, 0, 1, -1, 1, 1, -1, -1];

/**
 * How much differs on the way to each pixel of the fine picture from the nearest of those where `marks` is `sign`:
 * OKLab passed from pixel to pixel but for what is grain, and once more from patch to patch, which grain does not hide;
 * Infinity from `most` on (geodesic distance: X. Bai, G. Sapiro, "A geodesic framework for fast interactive image and
 * video segmentation and matting", ICCV 2007).
 */
export function alongSurface(
  picture: PreparedPicture,
  marks: Int8Array,
  sign: 1 | -1,
  grain: number,
  most: number,
): Float32Array {
  const { width, height, oklab } = picture.fine;
  const { L, a, b } = oklab;
  const { patches } = picture;
  const patch = patchOfEach(picture);
  const distance = new Float32Array(width * height).fill(Infinity);
  const ways: number[][] = Array.from({ length: Math.ceil(most / AT_ONCE) + 1 }, () => []);
  for (let i = 0; i < distance.length; i++) {
    if (marks[i] !== sign) continue;
    distance[i] = 0;
    ways[0]!.push(i);
  }
  for (let k = 0; k < ways.length; k++) {
    const bucket = ways[k]!;
    // it grows while it is gone through
    for (let n = 0; n < bucket.length; n++) {
      const i = bucket[n]!;
      // been there by a shorter way
      if (Math.floor(distance[i]! / AT_ONCE) !== k) continue;
      const x = i % width;
      const y = (i - x) / width;
      const p = patch[i]!;
      for (let to = 0; to < 8; to++) {
        const u = x + ACROSS[to]!;
        const v = y + DOWN[to]!;
        if (u < 0 || v < 0 || u >= width || v >= height) continue;
        const j = v * width + u;
        if (distance[j]! <= distance[i]!) continue;
        const differs = Math.sqrt((L[i]! - L[j]!) ** 2 + (a[i]! - a[j]!) ** 2 + (b[i]! - b[j]!) ** 2);
        let step = (to < 4 ? LEAST_STEP : Math.SQRT2 * LEAST_STEP) + Math.max(differs - grain, 0);
        const q = patch[j]!;
        if (p !== q) {
          const dL = patches.L[p]! - patches.L[q]!;
          const da = patches.a[p]! - patches.a[q]!;
          const db = patches.b[p]! - patches.b[q]!;
          step += Math.sqrt(dL * dL + da * da + db * db);
        }
        const there = Math.fround(distance[i]! + step);
        if (there >= distance[j]! || there >= most) continue;
        distance[j] = there;
        ways[Math.floor(there / AT_ONCE)]!.push(j);
      }
    }
    ways[k] = [];
  }
  return distance;
}
