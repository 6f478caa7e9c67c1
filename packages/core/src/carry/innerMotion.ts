import { cornersIn } from '../track/corners.ts';
import { flexOfPoints } from '../track/flexFit.ts';
import { followPoints } from '../track/flow.ts';
import { inverted, project, type Homography, type Quad } from '../track/homography.ts';
import { MotionModel } from '../track/motionModel.ts';
import type { PieceMotion } from '../track/pieceMotion.ts';
import type { Pyramid } from '../track/pyramid.ts';
import { robustMotion } from '../track/robustFit.ts';
import { bestShift } from './bestShift.ts';
import type { PixelBox } from '../matte/bounds.ts';

const MOST_POINTS = 260;
const LEAST_POINTS = 8;
/** Of many points a small share may agree by more than chance; of few, most must. */
const LEAST_SHARE = 0.25;
const FEW_POINTS = 16;
const LEAST_SHARE_OF_FEW = 0.5;
/** Under this the bending cannot be told from noise. */
const LEAST_FOR_FLEX = 40;
/** How far inside the outline points lie where there are enough of them, pixels. */
const CLEAR = 6;
/** A point that strays further from the plane motion than this is no bending, pixels. */
const MOST_BENT = 6;
/** Under this share of points that agree, another start is tried. */
const SURE_SHARE = 0.45;

/** How what a mask holds on one frame lies on the other. */
export interface InnerMotion {
  /** From the other frame back to the first: what a picture is read by. */
  back: PieceMotion;
  /** From the first frame to the other. */
  forth: Homography;
  /** Share of the points that agree with it, 0..1; 0 where it was found without points. */
  share: number;
  points: number;
}

/**
 * The motion, from one frame to another, of what a mask (0 or 1) holds, from points inside it alone: what lies around
 * it moves otherwise. `guess` is where it is thought to go; `ground` (from the other frame back) is how the rest moves:
 * what goes with it does not bend the piece. Where too few points are found, or they do not agree, the mask's whole
 * picture is looked for near by, as a shift only. Undefined when that is not found either.
 */
export function innerMotion(
  from: Pyramid,
  to: Pyramid,
  mask: Float32Array,
  box: PixelBox,
  guess: Homography,
  ground: Homography,
): InnerMotion | undefined {
  const first = motionOfPoints(from, to, mask, box, guess, ground);
  if (first && first.share >= SURE_SHARE) return first;
  const shift = bestShift(from, to, mask, box, guess);
  if (!shift) return first;
  const second = motionOfPoints(from, to, mask, box, shift, ground);
  if (second && (!first || second.share * second.points > first.share * first.points)) return second;
  if (first) return first;
  const back = inverted(shift);
  return { back: { motion: back, flex: undefined, quad: quadOf(box) }, forth: shift, share: 0, points: 0 };
}

const quadOf = ({ x0, y0, x1, y1 }: PixelBox): Quad => [
  [x0, y0],
  [x1, y0],
  [x1, y1],
  [x0, y1],
];

function motionOfPoints(
  from: Pyramid,
  to: Pyramid,
  mask: Float32Array,
  box: PixelBox,
  guess: Homography,
  ground: Homography,
): InnerMotion | undefined {
  const { width, height } = from[0]!;
  const { x0, y0, x1, y1 } = box;
  let area = 0;
  for (let y = y0; y < y1; y++) for (let x = x0; x < x1; x++) area += mask[y * width + x]!;
  const spacing = Math.max(Math.sqrt(area / MOST_POINTS) * 0.7, 4);
  const isIn = (x: number, y: number) =>
    x >= 0 && y >= 0 && x < width && y < height && mask[(y | 0) * width + (x | 0)]! >= 0.5;
  const wellInside = (x: number, y: number) =>
    isIn(x - CLEAR, y) && isIn(x + CLEAR, y) && isIn(x, y - CLEAR) && isIn(x, y + CLEAR) && isIn(x, y);
  // a window that reaches over the outline sees the ground too, and drags the point along with it
  const clear = cornersIn(from[0]!, box, wellInside, MOST_POINTS, spacing);
  const points = clear.length >= 2 * LEAST_FOR_FLEX ? clear : cornersIn(from[0]!, box, isIn, MOST_POINTS, spacing);
  if (points.length < 2 * LEAST_POINTS) return undefined;
  const guesses = new Float64Array(points.length);
  for (let i = 0; i < points.length; i += 2) {
    const [x, y] = project(guess, points[i]!, points[i + 1]!);
    guesses[i] = x;
    guesses[i + 1] = y;
  }
  const { places, kept } = followPoints(from, to, points, guesses);
  let n = 0;
  for (const k of kept) n += k;
  if (n < LEAST_POINTS) return undefined;
  const [cx, cy] = project(guess, (x0 + x1) / 2, (y0 + y1) / 2);
  const rich = n >= 2 * LEAST_POINTS;
  const model = new MotionModel(
    { move: true, turn: rich, scale: rich, shear: rich, perspective: false },
    cx,
    cy,
    Math.max(x1 - x0, y1 - y0) / 2,
  );
  // stated from the other frame back to the first
  const fit = robustMotion(model, inverted(guess), places, points, kept, 1);
  if (!fit) return undefined;
  const agreeing = fit.agreeing.reduce((sum, v) => sum + v, 0);
  if (agreeing < LEAST_POINTS || fit.share < (agreeing < FEW_POINTS ? LEAST_SHARE_OF_FEW : LEAST_SHARE))
    return undefined;
  const forth = inverted(fit.motion);
  const corners = quadOf(box).map(([x, y]) => project(forth, x, y));
  const [xs, ys] = [corners.map((c) => c[0]), corners.map((c) => c[1])];
  const quad = quadOf({ x0: Math.min(...xs), y0: Math.min(...ys), x1: Math.max(...xs), y1: Math.max(...ys) });
  let back: PieceMotion = { motion: fit.motion, flex: undefined, quad };
  if (agreeing >= LEAST_FOR_FLEX) {
    const moved = [];
    const goesWithGround = (u: number, v: number, x: number, y: number) => {
      const [gx, gy] = project(ground, u, v);
      return Math.hypot(gx - x, gy - y) < 1;
    };
    for (let i = 0; i < kept.length; i++) {
      if (!kept[i]) continue;
      // where the point would lie on the other frame if the surface did not bend
      const [x, y] = project(forth, points[2 * i]!, points[2 * i + 1]!);
      const [u, v] = [places[2 * i]!, places[2 * i + 1]!];
      const strayed = Math.hypot(x - u, y - v);
      if (strayed > MOST_BENT || (strayed > 1 && goesWithGround(u, v, points[2 * i]!, points[2 * i + 1]!))) continue;
      moved.push({ x: u, y: v, dx: x - u, dy: y - v });
    }
    back = { ...back, flex: flexOfPoints(moved, quad, undefined) };
  }
  return { back, forth, share: fit.share, points: agreeing };
}
