import { project, type Homography } from '../track/homography.ts';
import { solveInPlace } from '../track/linear.ts';
import { bilinear } from './bilinear.ts';
import { gaussianInPlace } from './gaussian.ts';

/** Mattes are blurred by this before they are laid over one another, full-resolution pixels: a drift of several times as much is found. */
const BLUR_PX = 5;
const ROUNDS = 12;
/** Tukey's limit on differences of blurred α: what an occluder cuts away does not count. */
const LIMIT = 0.35;

/** With less of the reference outline's middle than this found again nothing is told. */
const LEAST_SEEN = 0.25;
const isMiddle = (a: number) => a > 0.4 && a < 0.6;

/**
 * How far a matte has slid against a track, in pixels of the track's reference frame: the shift that lays the matte of a
 * frame, carried back by the track's motion, over the matte of the reference frame (Gauss–Newton on blurred α with robust
 * weights, after Lucas & Kanade 1981). `motion` maps full-resolution pixels of the reference frame to the frame's;
 * both mattes are `width × height`, `scale` times the full size. Undefined where too little of the outline is seen.
 */
export function driftOf(reference: Float32Array, now: Float32Array, width: number, height: number, scale: number, motion: Homography): { dx: number; dy: number; px: number } | undefined {
  const [a, b] = [reference.slice(), now.slice()];
  gaussianInPlace(a, width, height, BLUR_PX * scale);
  gaussianInPlace(b, width, height, BLUR_PX * scale);
  const [gx, gy] = [new Float32Array(a.length), new Float32Array(a.length)];
  const edge: number[] = [];
  /** Of those, the ones in the middle of the ramp, by which it is told whether the outline is there at all. */
  let middle = 0;
  for (let y = 1; y < height - 1; y++)
    for (let x = 1; x < width - 1; x++) {
      const i = y * width + x;
      gx[i] = (a[i + 1]! - a[i - 1]!) / 2;
      gy[i] = (a[i + width]! - a[i - width]!) / 2;
      if (gx[i]! ** 2 + gy[i]! ** 2 > 1e-4) {
        edge.push(i);
        if (isMiddle(a[i]!)) middle++;
      }
    }
  if (edge.length < 30) return undefined;
  let [dx, dy] = [0, 0];
  for (let round = 0; round < ROUNDS; round++) {
    const normal = new Float64Array(4);
    const t = new Float64Array(2);
    let seen = 0;
    for (const i of edge) {
      const [x, y] = [(i % width) + 0.5 + dx, Math.floor(i / width) + 0.5 + dy];
      const [u, v] = project(motion, x / scale, y / scale);
      const [px, py] = [u * scale - 0.5, v * scale - 0.5];
      if (!(px >= 0 && py >= 0 && px < width - 1 && py < height - 1)) continue;
      const value = bilinear(b, width, px, py);
      const e = (value - a[i]!) / LIMIT;
      if (Math.abs(e) >= 1) continue;
      if (isMiddle(a[i]!)) seen++;
      const w = (1 - e * e) ** 2;
      normal[0] = normal[0]! + w * gx[i]! * gx[i]!;
      normal[1] = normal[1]! + w * gx[i]! * gy[i]!;
      normal[3] = normal[3]! + w * gy[i]! * gy[i]!;
      t[0] = t[0]! + w * gx[i]! * (a[i]! - value);
      t[1] = t[1]! + w * gy[i]! * (a[i]! - value);
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
