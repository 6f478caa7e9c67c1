import type { Oklab } from '../colour/oklab.ts';
import type { OklabPlanes } from '../colour/oklabPlanes.ts';
import type { PickedRegion } from '../document/key.ts';

/** Samples either way: 25 colours describe what was picked. */
const ACROSS = 5;

/**
 * Five places spread evenly over a span of pixels; a span shorter than that is grown to five pixels about its middle.
 */
function spread(from: number, to: number, limit: number): number[] {
  const [lo, hi] = [Math.floor(Math.min(from, to)), Math.floor(Math.max(from, to))];
  const middle = Math.floor((lo + hi) / 2);
  const [first, last] = hi - lo < ACROSS - 1 ? [middle - 2, middle + 2] : [lo, hi];
  return Array.from({ length: ACROSS }, (_, k) => {
    const at = Math.round(first + ((last - first) * k) / (ACROSS - 1));
    return Math.min(Math.max(at, 0), limit - 1);
  });
}

/**
 * The colours of a picked rectangle (full-resolution pixels) in a picture that is `scale` times the full size: 25 of
 * them, spread evenly; a point stands for the 5 × 5 pixels round it.
 */
export function pickedSamples(
  { L, a, b }: OklabPlanes,
  { width, height, scale }: { width: number; height: number; scale: number },
  { x0, y0, x1, y1 }: Pick<PickedRegion, 'x0' | 'y0' | 'x1' | 'y1'>,
): Oklab[] {
  const columns = spread(x0 * scale, x1 * scale, width);
  return spread(y0 * scale, y1 * scale, height).flatMap((y) =>
    columns.map((x) => ({ L: L[y * width + x]!, a: a[y * width + x]!, b: b[y * width + x]! })),
  );
}
