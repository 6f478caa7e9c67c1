import { project, type Homography } from '../track/homography.ts';
import { solveInPlace } from '../track/linear.ts';
import { bilinear } from './bilinear.ts';
import { gaussianInPlace } from './gaussian.ts';

/**
 * Mattes are blurred by this before they are laid over one another, full-resolution pixels: a slip of several times as
 * much is found.
 */
const BLUR_PX = 5;
const ROUNDS = 12;
/** Tukey's limit on differences of blurred α: what an occluder cuts away does not count. */
const LIMIT = 0.35;

/** With less of the reference outline's middle than this found again nothing is told. */
const LEAST_SEEN = 0.25;
const isMiddle = (a: number) => a > 0.4 && a < 0.6;

/** A matte that others are laid over: blurred α, its slopes, and the pixels that have some. */
export interface SlipReference {
  width: number;
  height: number;
  /** This size over the full resolution. */
  scale: number;
  alpha: Float32Array;
  edge: Int32Array;
  /** ∂α/∂x and ∂α/∂y of each edge pixel. */
  slope: Float32Array;
  /** How many edge pixels lie in the middle of the ramp, by which it is told whether the outline is there at all. */
  middle: number;
}
export function slipReference(alpha: Float32Array, width: number, height: number, scale: number): SlipReference {
  const a = alpha.slice();
  gaussianInPlace(a, width, height, BLUR_PX * scale);
  const edge: number[] = [];
  const slope: number[] = [];
  let middle = 0;
  for (let y = 1; y < height - 1; y++)
    for (let x = 1; x < width - 1; x++) {
      const i = y * width + x;
      const gx = (a[i + 1]! - a[i - 1]!) / 2;
      const gy = (a[i + width]! - a[i - width]!) / 2;
      if (gx ** 2 + gy ** 2 <= 1e-4) continue;
      edge.push(i);
      slope.push(gx, gy);
      if (isMiddle(a[i]!)) middle++;
    }
  return { width, height, scale, alpha: a, edge: Int32Array.from(edge), slope: Float32Array.from(slope), middle };
}

/**
 * How far a matte has slid against a track, in pixels of the track's reference frame: the shift that lays the matte of
 * a frame, carried back by the track's motion, over the matte of the reference frame (Gauss–Newton on blurred α with
 * robust weights, after Lucas & Kanade 1981). `motion` maps full-resolution pixels of the reference frame to the
 * frame's; `now` has the reference's size. Undefined where too little of the outline is seen.
 */
export function slipOf(
  reference: SlipReference,
  now: Float32Array,
  motion: Homography,
): { dx: number; dy: number; px: number } | undefined {
  const { width, height, scale, alpha: a, edge, slope, middle } = reference;
  if (edge.length < 30) return undefined;
  const b = now.slice();
  gaussianInPlace(b, width, height, BLUR_PX * scale);
  let [dx, dy] = [0, 0];
  for (let round = 0; round < ROUNDS; round++) {
    const normal = new Float64Array(4);
    const t = new Float64Array(2);
    let seen = 0;
    for (let k = 0; k < edge.length; k++) {
      const i = edge[k]!;
      const x = (i % width) + 0.5 + dx;
      const y = Math.floor(i / width) + 0.5 + dy;
      const [u, v] = project(motion, x / scale, y / scale);
      const px = u * scale - 0.5;
      const py = v * scale - 0.5;
      if (!(px >= 0 && py >= 0 && px < width - 1 && py < height - 1)) continue;
      const value = bilinear(b, width, px, py);
      const e = (value - a[i]!) / LIMIT;
      if (Math.abs(e) >= 1) continue;
      if (isMiddle(a[i]!)) seen++;
      const w = (1 - e * e) ** 2;
      const gx = slope[2 * k]!;
      const gy = slope[2 * k + 1]!;
      normal[0] = normal[0]! + w * gx * gx;
      normal[1] = normal[1]! + w * gx * gy;
      normal[3] = normal[3]! + w * gy * gy;
      t[0] = t[0]! + w * gx * (a[i]! - value);
      t[1] = t[1]! + w * gy * (a[i]! - value);
    }
    if (seen < middle * LEAST_SEEN) return undefined;
    normal[2] = normal[1]!;
    // an outline that is straight fixes nothing along itself
    normal[0] = normal[0]! * 1.0001 + 1e-9;
    normal[3] = normal[3]! * 1.0001 + 1e-9;
    if (!solveInPlace(normal, t, 2)) return undefined;
    dx += t[0]!;
    dy += t[1]!;
    if (Math.hypot(t[0]!, t[1]!) < 0.003) break;
  }
  return { dx: dx / scale, dy: dy / scale, px: Math.hypot(dx, dy) / scale };
}
