// Where a region may have gone that jumped: starts for the tracker's alignment, which decides.
import type { Freedom } from '../document/motion.ts';
import { cornersIn } from './corners.ts';
import { followPoints } from './flow.ts';
import { compose, project, type Homography, type Quad } from './homography.ts';
import type { Pyramid } from './pyramid.ts';

const TURNS_DEG = [-24, -12, 0, 12, 24] as const;
const SCALES = [0.85, 1, 1.18] as const;
/** The surroundings reach so many times the region's size to each side, and hold so many points. */
const SURROUNDINGS = 1;
const MOST_POINTS = 300;
const LEAST_POINTS = 12;

/** A motion, and the same with the region turned and made larger or smaller about its middle after it, as it may be. */
export function turnedAndScaled(
  motion: Homography,
  { x0, y0, x1, y1 }: { x0: number; y0: number; x1: number; y1: number },
  free: Pick<Freedom, 'turn' | 'scale'>,
): Homography[] {
  const [x, y] = project(motion, (x0 + x1) / 2, (y0 + y1) / 2);
  return (free.turn ? TURNS_DEG : [0]).flatMap((turn) =>
    (free.scale ? SCALES : [1]).map((scale) => {
      const [c, s] = [scale * Math.cos((turn * Math.PI) / 180), scale * Math.sin((turn * Math.PI) / 180)];
      return compose([c, -s, x - c * x + s * y, s, c, y - s * x - c * y, 0, 0, 1], motion);
    }),
  );
}

/** Points of one frame and where they are on the next, x, y, x, y …, and which of them came through. */
export interface FollowedPoints {
  was: Float64Array;
  places: Float64Array;
  kept: Uint8Array;
}
/**
 * Points in and round about a region, followed to the next frame: a camera that jumps takes both along. Undefined where
 * there are too few.
 */
export function pointsAround(previous: Pyramid, next: Pyramid, quad: Quad): FollowedPoints | undefined {
  const [xs, ys] = [quad.map((p) => p[0]), quad.map((p) => p[1])];
  const [x0, y0, x1, y1] = [Math.min(...xs), Math.min(...ys), Math.max(...xs), Math.max(...ys)];
  const reach = Math.max(x1 - x0, y1 - y0) * SURROUNDINGS;
  const box = { x0: x0 - reach, y0: y0 - reach, x1: x1 + reach, y1: y1 + reach };
  const spacing = Math.max(Math.sqrt(((box.x1 - box.x0) * (box.y1 - box.y0)) / MOST_POINTS) * 0.7, 5);
  const was = cornersIn(previous[0]!, box, () => true, MOST_POINTS, spacing);
  if (was.length < 2 * LEAST_POINTS) return undefined;
  return { was, ...followPoints(previous, next, was, was) };
}
