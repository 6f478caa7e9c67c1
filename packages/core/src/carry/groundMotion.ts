import { boundsOfMatte, grownBox } from '../matte/bounds.ts';
import { cornersIn } from '../track/corners.ts';
import { followPoints } from '../track/flow.ts';
import { STILL, type Homography } from '../track/homography.ts';
import { MotionModel } from '../track/motionModel.ts';
import type { Pyramid } from '../track/pyramid.ts';
import { robustMotion } from '../track/robustFit.ts';

const MOST_POINTS = 160;
const LEAST_POINTS = 8;
/** How far round the piece is looked, of its longer side. */
const AROUND = 0.6;
/** A point's window must not reach over the piece, pixels. */
const CLEAR = 7;

/** Half the size is enough for what fills much of the picture, and takes a quarter of the time. */
const LEVEL = 1;

/**
 * How most of what lies around a mask moves, from the other frame back to the first (a camera's move: shift, turn,
 * scale, shear). Still where it cannot be told.
 */
export function groundMotion(from: Pyramid, to: Pyramid, mask: Float32Array): Homography {
  const { width, height } = from[0]!;
  const box = boundsOfMatte(mask, width, height);
  if (!box || from.length <= LEVEL) return STILL;
  const step = 1 << LEVEL;
  const isIn = (x: number, y: number) =>
    mask[Math.min(Math.max(y, 0), height - 1) * width + Math.min(Math.max(x, 0), width - 1)]! >= 0.5;
  const clear = CLEAR * step;
  const outside = (px: number, py: number) => {
    const [x, y] = [(px * step) | 0, (py * step) | 0];
    return !(isIn(x, y) || isIn(x - clear, y) || isIn(x + clear, y) || isIn(x, y - clear) || isIn(x, y + clear));
  };
  const near = grownBox(box, AROUND, width, height);
  const at = (v: number) => v / step;
  const [first, second] = [from.slice(LEVEL), to.slice(LEVEL)];
  const points = cornersIn(
    first[0]!,
    { x0: at(near.x0), y0: at(near.y0), x1: at(near.x1), y1: at(near.y1) },
    outside,
    MOST_POINTS,
    6,
  );
  if (points.length < 2 * LEAST_POINTS) return STILL;
  const { places, kept } = followPoints(first, second, points, points);
  const freedom = { move: true, turn: true, scale: true, shear: true, perspective: false };
  const model = new MotionModel(freedom, at(width / 2), at(height / 2), at(width / 2));
  const found = robustMotion(model, STILL, places, points, kept, 2)?.motion;
  // an affine map of half coordinates: of whole ones only the shift is larger
  return found ? [found[0], found[1], found[2] * step, found[3], found[4], found[5] * step, 0, 0, 1] : STILL;
}
