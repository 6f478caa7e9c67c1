import type { Level, Pyramid } from './pyramid.ts';

/** Half size of a point's window, pixels of its level. */
const RADIUS = 6;
const SIDE = 2 * RADIUS + 1;
const ROUNDS = 12;
/** A step under this many pixels ends the iteration. */
const SETTLED_PX = 0.01;
/** Points that come back further than this from where they set out are dropped. */
const RETURN_PX = 0.6;

const patch = new Float64Array(SIDE * SIDE);
const patchX = new Float64Array(SIDE * SIDE);
const patchY = new Float64Array(SIDE * SIDE);

/**
 * One point from one level to another of the same size, starting at displacement (dx, dy): Lucas & Kanade 1981 in
 * Bouguet's iteration (2001), the gradients taken once from the first picture. Writes the displacement to `out`; false
 * when the window leaves the picture or holds no texture.
 */
function followPoint(out: Float64Array, from: Level, to: Level, x: number, y: number, dx: number, dy: number): boolean {
  const { width, height } = from;
  // sample i of the luma lies at i + 0.5
  const [left, top] = [x - 0.5 - RADIUS, y - 0.5 - RADIUS];
  const [ix, iy] = [Math.floor(left), Math.floor(top)];
  if (ix < 1 || iy < 1 || ix + SIDE + 2 >= width || iy + SIDE + 2 >= height) return false;
  const [fx, fy] = [left - ix, top - iy];
  const [w00, w10, w01, w11] = [(1 - fx) * (1 - fy), fx * (1 - fy), (1 - fx) * fy, fx * fy];
  const a = from.luma;
  let [gxx, gxy, gyy] = [0, 0, 0];
  for (let v = 0, k = 0; v < SIDE; v++) {
    let i = (iy + v) * width + ix;
    for (let u = 0; u < SIDE; u++, k++, i++) {
      patch[k] = w00 * a[i]! + w10 * a[i + 1]! + w01 * a[i + width]! + w11 * a[i + width + 1]!;
      const gx = (w00 * (a[i + 1]! - a[i - 1]!) + w10 * (a[i + 2]! - a[i]!) + w01 * (a[i + width + 1]! - a[i + width - 1]!) + w11 * (a[i + width + 2]! - a[i + width]!)) / 2;
      const gy = (w00 * (a[i + width]! - a[i - width]!) + w10 * (a[i + width + 1]! - a[i - width + 1]!) + w01 * (a[i + 2 * width]! - a[i]!) + w11 * (a[i + 2 * width + 1]! - a[i + 1]!)) / 2;
      patchX[k] = gx;
      patchY[k] = gy;
      gxx += gx * gx;
      gxy += gx * gy;
      gyy += gy * gy;
    }
  }
  const det = gxx * gyy - gxy * gxy;
  if (det < 1e-10) return false;
  const b = to.luma;
  for (let round = 0; round < ROUNDS; round++) {
    const [l, t] = [left + dx, top + dy];
    const [jx, jy] = [Math.floor(l), Math.floor(t)];
    if (!(jx >= 0 && jy >= 0 && jx + SIDE + 1 < width && jy + SIDE + 1 < height)) return false;
    const [ex, ey] = [l - jx, t - jy];
    const [v00, v10, v01, v11] = [(1 - ex) * (1 - ey), ex * (1 - ey), (1 - ex) * ey, ex * ey];
    let [bx, by] = [0, 0];
    for (let v = 0, k = 0; v < SIDE; v++) {
      let i = (jy + v) * width + jx;
      for (let u = 0; u < SIDE; u++, k++, i++) {
        const difference = patch[k]! - (v00 * b[i]! + v10 * b[i + 1]! + v01 * b[i + width]! + v11 * b[i + width + 1]!);
        bx += difference * patchX[k]!;
        by += difference * patchY[k]!;
      }
    }
    const [sx, sy] = [(gyy * bx - gxy * by) / det, (gxx * by - gxy * bx) / det];
    dx += sx;
    dy += sy;
    if (sx * sx + sy * sy < SETTLED_PX * SETTLED_PX) break;
  }
  out[0] = dx;
  out[1] = dy;
  return true;
}

const moved = new Float64Array(2);
/** Down the pyramid from `top` to the ground, starting at a guessed displacement in ground pixels. */
function followDown(out: Float64Array, from: Pyramid, to: Pyramid, x: number, y: number, dx: number, dy: number, top: number): boolean {
  let ok = false;
  for (let level = top; level >= 0; level--) {
    const s = 1 / (1 << level);
    ok = followPoint(moved, from[level]!, to[level]!, x * s, y * s, dx * s, dy * s);
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
export function followPoints(from: Pyramid, to: Pyramid, points: Float64Array, guesses: Float64Array): { places: Float64Array; kept: Uint8Array } {
  const places = new Float64Array(points.length);
  const kept = new Uint8Array(points.length / 2);
  const [forth, back] = [new Float64Array(2), new Float64Array(2)];
  const top = Math.min(from.length - 1, 3);
  for (let i = 0; i < kept.length; i++) {
    const [x, y] = [points[2 * i]!, points[2 * i + 1]!];
    if (!followDown(forth, from, to, x, y, guesses[2 * i]! - x, guesses[2 * i + 1]! - y, top)) continue;
    const [u, v] = [x + forth[0]!, y + forth[1]!];
    places[2 * i] = u;
    places[2 * i + 1] = v;
    // back from the guessed motion, not from the found one: that would only confirm itself
    if (!followDown(back, to, from, u, v, x - guesses[2 * i]!, y - guesses[2 * i + 1]!, Math.min(top, 2))) continue;
    if ((u + back[0]! - x) ** 2 + (v + back[1]! - y) ** 2 < RETURN_PX * RETURN_PX) kept[i] = 1;
  }
  return { places, kept };
}
