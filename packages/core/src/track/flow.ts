import { kernels, SAMPLES } from '../kernels/module.ts';
import type { Level, Pyramid } from './pyramid.ts';

/** Half size of a point's window, pixels of its level. */
const RADIUS = 6;
const SIDE = 2 * RADIUS + 1;
const ROUNDS = 12;
/** A step under this many pixels ends the iteration. */
const SETTLED_PX = 0.01;
/** Points that come back further than this from where they set out are dropped. */
const RETURN_PX = 0.6;

/** The window and a rim of one sample about it, for its slopes. */
const RIMMED = SIDE + 2;
const rimmed = new Float64Array(RIMMED * RIMMED);
const patch = new Float64Array(SIDE * SIDE);
const patchX = new Float64Array(SIDE * SIDE);
const patchY = new Float64Array(SIDE * SIDE);

/** Reads the window whose first sample lies (fx, fy) beyond sample (ix, iy), bilinear, with its slopes. */
function readPatch({ luma, width }: Level, ix: number, iy: number, fx: number, fy: number): void {
  for (let v = 0, k = 0; v < RIMMED; v++) {
    let i = (iy + v - 1) * width + ix - 1;
    // each column between two rows serves two samples
    let column = (1 - fy) * luma[i]! + fy * luma[i + width]!;
    for (let u = 0; u < RIMMED; u++, k++) {
      i++;
      const next = (1 - fy) * luma[i]! + fy * luma[i + width]!;
      rimmed[k] = (1 - fx) * column + fx * next;
      column = next;
    }
  }
  for (let v = 0, k = 0; v < SIDE; v++) {
    let i = (v + 1) * RIMMED + 1;
    for (let u = 0; u < SIDE; u++, k++, i++) {
      patch[k] = rimmed[i]!;
      patchX[k] = (rimmed[i + 1]! - rimmed[i - 1]!) / 2;
      patchY[k] = (rimmed[i + RIMMED]! - rimmed[i - RIMMED]!) / 2;
    }
  }
}

const sums = new Float64Array(2);
/** Σ of difference × slope over the window, of the patch and the window that begins (ex, ey) beyond sample (jx, jy). */
function sumDifferences({ luma, width }: Level, jx: number, jy: number, ex: number, ey: number): void {
  let bx = 0;
  let by = 0;
  for (let v = 0, k = 0; v < SIDE; v++) {
    let i = (jy + v) * width + jx;
    let column = (1 - ey) * luma[i]! + ey * luma[i + width]!;
    for (let u = 0; u < SIDE; u++, k++) {
      i++;
      const next = (1 - ey) * luma[i]! + ey * luma[i + width]!;
      const difference = patch[k]! - ((1 - ex) * column + ex * next);
      column = next;
      bx += difference * patchX[k]!;
      by += difference * patchY[k]!;
    }
  }
  sums[0] = bx;
  sums[1] = by;
}

/**
 * One point from one level to another of the same size, starting at displacement (dx, dy): Lucas & Kanade 1981 in
 * Bouguet's iteration (2001), the gradients taken once from the first picture. Writes the displacement to `out`; false
 * when the window leaves the picture or holds no texture.
 */
function followPoint(out: Float64Array, from: Level, to: Level, x: number, y: number, dx: number, dy: number): boolean {
  const { width, height } = from;
  // sample i of the luma lies at i + 0.5
  const left = x - 0.5 - RADIUS;
  const top = y - 0.5 - RADIUS;
  const ix = Math.floor(left);
  const iy = Math.floor(top);
  if (ix < 1 || iy < 1 || ix + SIDE + 2 >= width || iy + SIDE + 2 >= height) return false;
  readPatch(from, ix, iy, left - ix, top - iy);
  let gxx = 0;
  let gxy = 0;
  let gyy = 0;
  for (let k = 0; k < patch.length; k++) {
    const gx = patchX[k]!;
    const gy = patchY[k]!;
    gxx += gx * gx;
    gxy += gx * gy;
    gyy += gy * gy;
  }
  const det = gxx * gyy - gxy * gxy;
  if (det < 1e-10) return false;
  for (let round = 0; round < ROUNDS; round++) {
    const l = left + dx;
    const t = top + dy;
    const jx = Math.floor(l);
    const jy = Math.floor(t);
    if (!(jx >= 0 && jy >= 0 && jx + SIDE + 1 < width && jy + SIDE + 1 < height)) return false;
    sumDifferences(to, jx, jy, l - jx, t - jy);
    const sx = (gyy * sums[0]! - gxy * sums[1]!) / det;
    const sy = (gxx * sums[1]! - gxy * sums[0]!) / det;
    dx += sx;
    dy += sy;
    if (sx * sx + sy * sy < SETTLED_PX * SETTLED_PX) break;
  }
  out[0] = dx;
  out[1] = dy;
  return true;
}

/** Follows a point at a level, all in its pixels; see followPoint. */
type Step = (out: Float64Array, level: number, x: number, y: number, dx: number, dy: number) => boolean;
interface Steps {
  forth: Step;
  back: Step;
}
export function stepsBySamples(from: Pyramid, to: Pyramid): Steps {
  return {
    forth: (out, level, x, y, dx, dy) => followPoint(out, from[level]!, to[level]!, x, y, dx, dy),
    back: (out, level, x, y, dx, dy) => followPoint(out, to[level]!, from[level]!, x, y, dx, dy),
  };
}
/** The kernel's room to work in, and what it reads past a window, bytes. */
const ROOM = 4096;
const PAST = 64;
/** Larger pyramids are not put into the kernels' memory, which would stay as large. */
const MOST_BYTES = 48e6;
function stepsByKernel(from: Pyramid, to: Pyramid): Steps | undefined {
  const own = kernels();
  const levels = [...from, ...to];
  const end = SAMPLES + ROOM + levels.reduce((sum, { luma }) => sum + luma.byteLength + PAST, 0);
  if (!own || end > MOST_BYTES) return undefined;
  const memory = own.samples(end);
  let free = SAMPLES + ROOM;
  const put = ({ luma }: Level) => {
    const at = free;
    memory.set(luma, at / 4);
    free += luma.byteLength + PAST;
    return at;
  };
  const [atFrom, atTo] = [from.map(put), to.map(put)];
  const step =
    (first: readonly number[], second: readonly number[]): Step =>
    (out, level, x, y, dx, dy) => {
      const { width, height } = from[level]!;
      if (own.followPoint(first[level]!, second[level]!, width, height, x, y, dx, dy, SAMPLES) === 0) return false;
      out.set(new Float64Array(memory.buffer, SAMPLES, 2));
      return true;
    };
  return { forth: step(atFrom, atTo), back: step(atTo, atFrom) };
}

const moved = new Float64Array(2);
/** Down the pyramid from `top` to the ground, starting at a guessed displacement in ground pixels. */
function followDown(out: Float64Array, step: Step, x: number, y: number, dx: number, dy: number, top: number): boolean {
  let ok = false;
  for (let level = top; level >= 0; level--) {
    const s = 1 / (1 << level);
    ok = step(moved, level, x * s, y * s, dx * s, dy * s);
    // too near the rim at a small size: the next larger one may still see it
    if (ok) [dx, dy] = [moved[0]! / s, moved[1]! / s];
  }
  out[0] = dx;
  out[1] = dy;
  return ok;
}

/**
 * Where points (x, y, x, y …) of one picture lie in another, starting from guesses; `kept[i]` is 1 where the point was
 * found and comes back to its place when followed backwards (Kalal et al. 2010), else 0.
 */
export function followPoints(
  from: Pyramid,
  to: Pyramid,
  points: Float64Array,
  guesses: Float64Array,
  { forth: forthStep, back: backStep } = stepsByKernel(from, to) ?? stepsBySamples(from, to),
): { places: Float64Array; kept: Uint8Array } {
  const places = new Float64Array(points.length);
  const kept = new Uint8Array(points.length / 2);
  const [forth, back] = [new Float64Array(2), new Float64Array(2)];
  const top = Math.min(from.length - 1, 3);
  for (let i = 0; i < kept.length; i++) {
    const [x, y] = [points[2 * i]!, points[2 * i + 1]!];
    if (!followDown(forth, forthStep, x, y, guesses[2 * i]! - x, guesses[2 * i + 1]! - y, top)) continue;
    const [u, v] = [x + forth[0]!, y + forth[1]!];
    places[2 * i] = u;
    places[2 * i + 1] = v;
    // back from the guessed motion, not from the found one: that would only confirm itself
    if (!followDown(back, backStep, u, v, x - guesses[2 * i]!, y - guesses[2 * i + 1]!, Math.min(top, 2))) continue;
    if ((u + back[0]! - x) ** 2 + (v + back[1]! - y) ** 2 < RETURN_PX * RETURN_PX) kept[i] = 1;
  }
  return { places, kept };
}
