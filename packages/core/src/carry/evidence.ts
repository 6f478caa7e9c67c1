import type { OklabPlanes } from '../colour/oklabPlanes.ts';
import type { PixelBox } from '../matte/bounds.ts';
import { boxMean } from '../matte/boxMean.ts';
import type { Homography } from '../track/homography.ts';
import type { PieceMotion } from '../track/pieceMotion.ts';
import { readAlong, wayBack } from './wayBack.ts';

/** How much motion may say of one pixel, as log-odds. */
const MOST_BY_MOTION = 4;
/** Differences past so many usual ones are all alike: the pixel shows something else. */
const CAP = 36;
/** What noise and resampling leave at least, squared OKLab difference of one plane. */
const LEAST_VARIANCE = 0.012 ** 2;
/** Differences are averaged over squares of this half size, pixels. */
const RADIUS = 2;
/** A distance that says: far outside. */
export const FAR_OUT = 24;

/** How something looks where it has been seen, now or before it was covered: planes of a frame or of a box of it. */
export interface Memory {
  looks: OklabPlanes;
  /** Where that is known, 0..1. */
  known: Float32Array;
}
/** What is known on a frame. */
export interface Moment {
  piece: Memory;
  ground: Memory;
  /** What is selected, 0 or 1. */
  mask: Float32Array;
  /** Signed distances to the outline as taught, carried up to this frame; not past `FAR_OUT` either way. */
  shape: Float32Array;
}

/** What two frames say of the pixels of a box of the later one, by how the piece and how the rest moves. */
export interface MotionEvidence {
  /** Log-odds of being the piece. */
  odds: Float32Array;
  /** How little is explained by either, 0..1. */
  open: Float32Array;
  /** What was known before, where its motion takes it, over the box. */
  carried: Moment;
}

/**
 * Which pixels of a frame came with the piece: each is compared with what it would show if it belonged to the piece,
 * and if it belonged to the ground, both remembered as they were seen last and carried along with their motions. So
 * what comes out from behind a post is known again, and the post, which never moved, is not taken for the piece. What
 * neither explains (something new) is left open.
 */
export function motionEvidence(
  was: Moment,
  now: OklabPlanes,
  motion: PieceMotion,
  ground: Homography,
  box: PixelBox,
  width: number,
  height: number,
): MotionEvidence {
  const read = (way: ReturnType<typeof wayBack>, memory: Memory, more: Float32Array[] = [], off: number[] = []) => {
    const planes = [memory.looks.L, memory.looks.a, memory.looks.b, memory.known, ...more];
    const [L, a, b, known, ...others] = readAlong(planes, [0, 0, 0, 0, ...off], way, width, height);
    return { memory: { looks: { L: L!, a: a!, b: b! }, known: known! }, others };
  };
  const ofPiece = read(wayBack(motion, box), was.piece, [was.mask, was.shape], [0, -FAR_OUT]);
  const ofGround = read(wayBack({ motion: ground, flex: undefined, quad: NO_QUAD }, box), was.ground);
  const [mask, shape] = ofPiece.others as [Float32Array, Float32Array];
  const carried: Moment = { piece: ofPiece.memory, ground: ofGround.memory, mask, shape };

  const piece = differences2(now, ofPiece.memory.looks, box, width);
  const rest = differences2(now, ofGround.memory.looks, box, width);
  const usual = usualDifference(piece, mask);
  const cap = CAP * usual;
  const [w, h] = [box.x1 - box.x0, box.y1 - box.y0];
  const asPiece = costs(piece, ofPiece.memory.known, cap, w, h);
  const asGround = costs(rest, ofGround.memory.known, cap, w, h);
  const odds = new Float32Array(w * h);
  const open = new Float32Array(w * h);
  for (let o = 0; o < odds.length; o++) {
    odds[o] = Math.min(Math.max((asGround[o]! - asPiece[o]!) / (6 * usual), -MOST_BY_MOTION), MOST_BY_MOTION);
    open[o] = Math.min(asPiece[o]!, asGround[o]!) / cap;
  }
  return { odds, open, carried };
}
const NO_QUAD: PieceMotion['quad'] = [
  [0, 0],
  [1, 0],
  [1, 1],
  [0, 1],
];

/** Squared OKLab difference of each pixel of a box from what is remembered for it. */
function differences2(now: OklabPlanes, looks: OklabPlanes, box: PixelBox, width: number): Float32Array {
  const out = new Float32Array(looks.L.length);
  for (let y = box.y0, o = 0; y < box.y1; y++)
    for (let x = box.x0, i = y * width + x; x < box.x1; x++, i++, o++) {
      const dL = now.L[i]! - looks.L[o]!;
      const da = now.a[i]! - looks.a[o]!;
      const db = now.b[i]! - looks.b[o]!;
      out[o] = dL * dL + da * da + db * db;
    }
  return out;
}
/** What it costs to explain each pixel so: its difference, averaged about it, and the cap where nothing is known. */
function costs(difference: Float32Array, known: Float32Array, cap: number, w: number, h: number): Float32Array {
  for (let o = 0; o < difference.length; o++) difference[o] = Math.min(difference[o]!, cap);
  const out = boxMean(difference, w, h, RADIUS);
  for (let o = 0; o < out.length; o++) out[o] = known[o]! * out[o]! + (1 - known[o]!) * cap;
  return out;
}

/** The variance of one plane that noise and resampling leave: from the usual difference where the piece surely is. */
function usualDifference(ofPiece: Float32Array, mask: Float32Array): number {
  let n = 0;
  const sure = new Float32Array(Math.ceil(mask.length / 3));
  for (let o = 0; o < mask.length; o += 3) if (mask[o]! > 0.99) sure[n++] = ofPiece[o]!;
  const sorted = sure.subarray(0, n).sort();
  // 2.366: median of χ² of three degrees of freedom
  return Math.max((sorted[n >> 1] ?? 0) / 2.366, LEAST_VARIANCE);
}
