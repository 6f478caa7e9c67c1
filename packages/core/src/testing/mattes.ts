// Mattes and pictures for tests: random, but the same on every run.
import { seededRandom } from '../track/random.ts';

export { seededRandom };
/** Soft discs of random place, size and edge, one over the other: a matte with islands, holes and soft rims. */
export function randomMatte(width: number, height: number, seed: number, discs = 9): Float32Array {
  const random = seededRandom(seed);
  const out = new Float32Array(width * height);
  for (let k = 0; k < discs; k++) {
    const [cx, cy, r, soft] = [
      random() * width,
      random() * height,
      2 + random() * Math.min(width, height) * 0.22,
      0.5 + random() * 6,
    ];
    const hole = random() < 0.3;
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++) {
        const a = Math.min(Math.max((r - Math.hypot(x + 0.5 - cx, y + 0.5 - cy)) / soft + 0.5, 0), 1);
        const i = y * width + x;
        out[i] = hole ? Math.min(out[i]!, 1 - a) : Math.max(out[i]!, a);
      }
  }
  return out;
}
export const thresholded = (alpha: Float32Array, level = 0.5): Uint8Array =>
  Uint8Array.from(alpha, (a) => (a >= level ? 1 : 0));
export function sum(plane: ArrayLike<number>): number {
  let total = 0;
  for (let i = 0; i < plane.length; i++) total += plane[i]!;
  return total;
}
export const worst = (a: ArrayLike<number>, b: ArrayLike<number>): number => {
  let most = 0;
  for (let i = 0; i < a.length; i++) most = Math.max(most, Math.abs(a[i]! - b[i]!));
  return most;
};
/** Mean of each 2 × 2 block. */
export function halvedMean(plane: Float32Array, width: number, height: number): Float32Array {
  const [w, h] = [width >> 1, height >> 1];
  const out = new Float32Array(w * h);
  for (let y = 0; y < h; y++)
    for (let x = 0; x < w; x++) {
      const i = 2 * y * width + 2 * x;
      out[y * w + x] = (plane[i]! + plane[i + 1]! + plane[i + width]! + plane[i + width + 1]!) / 4;
    }
  return out;
}
