import { planeOf, type LinearPlanes } from '../colour/planes.ts';
import { gaussianInPlace } from './gaussian.ts';

/** Above this a pixel shows the piece alone, below its complement none of it. */
const SOLID = 0.98;
/** How far the colours of piece and ground are looked for, standard deviation in full-resolution pixels. */
const LOOK_PX = 5;
/** With less of a core than this in sight nothing is known of a part. */
const LEAST_SEEN = 0.004;
/** Difference of piece and ground, linear light, at which a pixel's mixture can half be told. */
const TELLING = 0.05;
/** How far a pixel may lie off the line between piece and ground, of its length, to be half believed. */
const ASIDE = 0.2;
/** Variance of what a camera adds, linear light. */
const CAMERA = 1e-4;
const MOST_CHANGE = 0.5;

/**
 * A matte's edge set right by the picture: at its soft pixels, and one beyond, α moves towards the share t that puts
 * the pixel between what piece and ground look like near it, I = B + t·(F − B), by as much as the two differ, the pixel
 * lies between them, and their own variety allows. `trust` is the standard deviation of the matte's errors: 0.1 for a
 * good one, 0.2 for one drawn by hand; 0 leaves it. `scale` is this size over the full resolution. A new plane.
 */
export function correctedMatte(
  { r, g, b }: LinearPlanes,
  alpha: Float32Array,
  width: number,
  height: number,
  trust: number,
  scale: number,
): Float32Array {
  if (trust === 0) return alpha;
  const piece = coreOf(alpha, width, height, (a) => a >= SOLID);
  const ground = coreOf(alpha, width, height, (a) => a <= 1 - SOLID);
  const planes = [r, g, b];
  const [F, B] = [piece, ground].map((core) => lookOf(planes, core, width, height, Math.max(LOOK_PX * scale, 1)));
  return alpha.map((a, i) => {
    if (piece[i] === 1 || ground[i] === 1 || F!.seen[i]! < LEAST_SEEN || B!.seen[i]! < LEAST_SEEN) return a;
    let q = 0;
    let along = 0;
    for (let c = 0; c < 3; c++) {
      const d = F!.mean[c]![i]! - B!.mean[c]![i]!;
      q += d * d;
      along += (planes[c]![i]! - B!.mean[c]![i]!) * d;
    }
    if (q < 1e-8) return a;
    const t = Math.min(Math.max(along / q, 0), 1);
    let off = 0;
    for (let c = 0; c < 3; c++) {
      const f = F!.mean[c]![i]!;
      const o = B!.mean[c]![i]!;
      off += (planes[c]![i]! - o - t * (f - o)) ** 2;
    }
    const noise = (t * t * F!.variance[i]! + (1 - t) ** 2 * B!.variance[i]! + CAMERA) / q;
    const belief = (q / (q + TELLING ** 2)) * (1 / (1 + off / (ASIDE ** 2 * q))) * (trust ** 2 / (trust ** 2 + noise));
    return a + belief * Math.min(Math.max(t - a, -MOST_CHANGE), MOST_CHANGE);
  });
}

/** Pixels that show one part alone, and all about them too. */
function coreOf(alpha: Float32Array, width: number, height: number, isIn: (a: number) => boolean): Float32Array {
  const across = new Uint8Array(alpha.length);
  for (let i = 0; i < alpha.length; i++) {
    const x = i % width;
    across[i] = isIn(alpha[i]!) && (x === 0 || isIn(alpha[i - 1]!)) && (x + 1 === width || isIn(alpha[i + 1]!)) ? 1 : 0;
  }
  return planeOf(alpha.length, (i) =>
    across[i] === 1 && (i < width || across[i - width] === 1) && (i >= width * (height - 1) || across[i + width] === 1)
      ? 1
      : 0,
  );
}

/**
 * What a part looks like round every pixel: mean of each channel, variance of all three, and how much of it is seen.
 */
function lookOf(planes: readonly Float32Array[], core: Float32Array, width: number, height: number, sigma: number) {
  const blurred = (of: (i: number) => number) => {
    const out = planeOf(core.length, (i) => (core[i] === 1 ? of(i) : 0));
    gaussianInPlace(out, width, height, sigma);
    return out;
  };
  const seen = blurred(() => 1);
  const mean = planes.map((plane) => blurred((i) => plane[i]!).map((v, i) => v / Math.max(seen[i]!, 1e-9)));
  const square = blurred((i) => planes.reduce((s, plane) => s + plane[i]! ** 2, 0));
  const variance = square.map((v, i) =>
    Math.max(v / Math.max(seen[i]!, 1e-9) - mean.reduce((s, m) => s + m[i]! ** 2, 0), 0),
  );
  return { seen, mean, variance };
}
