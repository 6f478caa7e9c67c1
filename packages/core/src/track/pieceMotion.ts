import { boundsOfMatte } from '../matte/bounds.ts';
import { cornersIn } from './corners.ts';
import { flexAt, type Flex } from './flex.ts';
import { flexOfPoints } from './flexFit.ts';
import { followPoints } from './flow.ts';
import { inverted, project, STILL, type Homography, type Quad } from './homography.ts';
import { MotionModel } from './motionModel.ts';
import type { Pyramid } from './pyramid.ts';
import { robustMotion } from './robustFit.ts';

/** How what a matte selects moves from one frame to another: a plane motion and a smooth bending beyond it. */
export interface PieceMotion {
  motion: Homography;
  flex: Flex | undefined;
  quad: Quad;
}
const MOST_POINTS = 220;
const LEAST_POINTS = 8;
/** Under this the bending cannot be told from noise. */
const LEAST_FOR_FLEX = 40;

/** Where a place of the first frame lies on the other. */
export function placeAfter({ motion, flex, quad }: PieceMotion, x: number, y: number): [x: number, y: number] {
  if (!flex) return project(motion, x, y);
  const [dx, dy] = flexAt(flex, quad, x, y);
  return project(motion, x + dx, y + dy);
}

/** Bounding box of where α is over ½, as corners; undefined where it nowhere is, or hardly. */
function boxOfMatte(alpha: Float32Array, width: number, height: number): Quad | undefined {
  const box = boundsOfMatte(alpha, width, height);
  if (!box || box.x1 - box.x0 < 4 || box.y1 - box.y0 < 4) return undefined;
  const { x0, y0, x1, y1 } = box;
  return [
    [x0, y0],
    [x1, y0],
    [x1, y1],
    [x0, y1],
  ];
}

/** A piece as it is looked for on other frames. */
interface Looked {
  quad: Quad;
  points: Float64Array;
}
const known = new WeakMap<Float32Array, WeakMap<Pyramid, Looked | 'nothing'>>();
/** The points inside a finished matte, kept with it: it is carried to the frames on either side of its own. */
function lookedAt(from: Pyramid, alpha: Float32Array): Looked | 'nothing' {
  const found = known.get(alpha)?.get(from);
  if (found) return found;
  const { width, height } = from[0]!;
  const quad = boxOfMatte(alpha, width, height);
  const inside = (x: number, y: number) => alpha[(y | 0) * width + (x | 0)]! >= 0.5;
  const made = quad ? { quad, points: pointsIn(from, quad, inside) } : 'nothing';
  known.set(alpha, new WeakMap([[from, made]]));
  return made;
}
function pointsIn(from: Pyramid, quad: Quad, allowed: (x: number, y: number) => boolean): Float64Array {
  const [x0, y0, x1, y1] = [quad[0][0], quad[0][1], quad[2][0], quad[2][1]];
  const spacing = Math.max(Math.sqrt(((x1 - x0) * (y1 - y0)) / MOST_POINTS) * 0.7, 4);
  return cornersIn(from[0]!, { x0: x0 - 4, y0: y0 - 4, x1: x1 + 4, y1: y1 + 4 }, allowed, MOST_POINTS, spacing);
}

/**
 * The motion of a piece between two frames, from points inside its matte only: its surroundings move otherwise. Where
 * its surface holds too little texture the outlines of the mattes themselves are followed. Undefined when neither
 * tells.
 */
export function pieceMotion(
  from: Pyramid,
  to: Pyramid,
  alpha: Float32Array,
  outlines: () => { from: Pyramid; to: Pyramid },
): PieceMotion | undefined {
  const looked = lookedAt(from, alpha);
  if (looked === 'nothing') return undefined;
  const { quad, points } = looked;
  const found = motionOfPoints(from, to, quad, points);
  if (found) return found;
  const mattes = outlines();
  const onOutlines = pointsIn(mattes.from, quad, () => true);
  return motionOfPoints(mattes.from, mattes.to, quad, onOutlines, false);
}

function motionOfPoints(
  from: Pyramid,
  to: Pyramid,
  quad: Quad,
  points: Float64Array,
  bends = true,
): PieceMotion | undefined {
  const [x0, y0, x1, y1] = [quad[0][0], quad[0][1], quad[2][0], quad[2][1]];
  if (points.length < 2 * LEAST_POINTS) return undefined;
  const { places, kept } = followPoints(from, to, points, points);
  const model = new MotionModel(
    { move: true, turn: true, scale: true, shear: true, perspective: false },
    (x0 + x1) / 2,
    (y0 + y1) / 2,
    Math.max(x1 - x0, y1 - y0) / 2,
  );
  const fit = robustMotion(model, STILL, points, places, kept, 1);
  const agreeing = fit?.agreeing.reduce((n, v) => n + v, 0) ?? 0;
  if (!fit || agreeing < LEAST_POINTS || fit.share < 0.3) return undefined;
  if (!bends || agreeing < LEAST_FOR_FLEX) return { motion: fit.motion, flex: undefined, quad };
  const back = inverted(fit.motion);
  const moved = Array.from({ length: kept.length }, (_, i) => i)
    .filter((i) => kept[i])
    .map((i) => {
      const [x, y] = project(back, places[2 * i]!, places[2 * i + 1]!);
      return { x: points[2 * i]!, y: points[2 * i + 1]!, dx: x - points[2 * i]!, dy: y - points[2 * i + 1]! };
    })
    .filter(({ dx, dy }) => Math.hypot(dx, dy) < 6);
  return { motion: fit.motion, flex: flexOfPoints(moved, quad, undefined), quad };
}
