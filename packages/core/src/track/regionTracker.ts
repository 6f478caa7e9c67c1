import type { Freedom } from '../document/motion.ts';
import type { Homography } from './homography.ts';
import { PATCH_PX, PatchTracker } from './patchTracker.ts';
import { boxOf, PlaneTracker, type Mask, type TrackedFrame } from './planeTracker.ts';
import type { Pyramid } from './pyramid.ts';

/** What follows a region from frame to frame. */
export interface RegionTracker {
  readonly textureErrorPx: number;
  step(next: Pyramid, holdOut?: Mask): TrackedFrame;
  resume(next: Pyramid, guess: Homography, holdOut?: Mask): TrackedFrame;
}

/** A tracker for a region: as a small patch where it is one, else as a plane. */
export function trackerFor(
  reference: Pyramid,
  region: Mask,
  holdOut: Mask | undefined,
  freedom: Freedom,
): RegionTracker {
  const { x0, y0, x1, y1 } = boxOf(region);
  const isPatch = Math.max(x1 - x0, y1 - y0) <= PATCH_PX && !freedom.flex;
  return isPatch
    ? new PatchTracker(reference, region, holdOut, freedom)
    : new PlaneTracker(reference, region, holdOut, freedom);
}
