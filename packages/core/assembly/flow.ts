// Points followed from one level of a pyramid to another, in floats where src/track/flow.ts has doubles.

const RADIUS: i32 = 6;
const SIDE: i32 = 2 * RADIUS + 1;
const ROUNDS: i32 = 12;
const SETTLED_PX: f64 = 0.01;
/** Of the window a row is four times four samples, of which the last three count for nothing. */
const ROW: usize = 64;
/** Where in the room lie: the window with a rim, the window, its slopes along and down. What is found comes first. */
const RIMMED: usize = 16;
const PATCH: usize = RIMMED + 15 * ROW + 16;
const SLOPE_X: usize = PATCH + 13 * ROW;
const SLOPE_Y: usize = SLOPE_X + 13 * ROW;

/** Four samples read bilinear, the first of them at `at`, `stride` the bytes to the next row. */
function between(at: usize, stride: usize, fx: v128, fy: v128): v128 {
  const above = v128.load(at);
  const beside = v128.load(at, 4);
  const left = f32x4.add(above, f32x4.mul(fy, f32x4.sub(v128.load(at + stride), above)));
  const right = f32x4.add(beside, f32x4.mul(fy, f32x4.sub(v128.load(at + stride, 4), beside)));
  return f32x4.add(left, f32x4.mul(fx, f32x4.sub(right, left)));
}
/** Those of four samples that lie in the window, the others 0. */
function inWindow(four: v128, u: usize): v128 {
  return u < 48 ? four : v128.and(four, i32x4(-1, 0, 0, 0));
}
function readPatch(luma: usize, stride: usize, fx: v128, fy: v128, room: usize): void {
  for (let v: usize = 0; v < 15; v++)
    for (let u: usize = 0; u < ROW; u += 16)
      v128.store(room + RIMMED + v * ROW + u, between(luma + v * stride + u, stride, fx, fy));
  const half = f32x4.splat(0.5);
  for (let v: usize = 0; v < 13; v++)
    for (let u: usize = 0; u < ROW; u += 16) {
      const at = room + RIMMED + v * ROW + u;
      const to = room + v * ROW + u;
      const along = f32x4.sub(v128.load(at + ROW, 8), v128.load(at + ROW));
      const down = f32x4.sub(v128.load(at + 2 * ROW, 4), v128.load(at, 4));
      v128.store(to, inWindow(v128.load(at + ROW, 4), u), PATCH);
      v128.store(to, inWindow(f32x4.mul(along, half), u), SLOPE_X);
      v128.store(to, inWindow(f32x4.mul(down, half), u), SLOPE_Y);
    }
}
function sumOf(four: v128): f64 {
  const lower = f64x2.promote_low_f32x4(four);
  const both = f64x2.add(lower, f64x2.promote_low_f32x4(i64x2.shuffle(four, four, 1, 1)));
  return f64x2.extract_lane(both, 0) + f64x2.extract_lane(both, 1);
}

/**
 * followPoint: luma of two levels of `width` × `height`, a place on the first and a displacement to begin with, pixels
 * of the level. Gives 1 and writes the displacement to the first two doubles of the room, or gives 0.
 */
export function followPoint(
  from: usize,
  to: usize,
  width: i32,
  height: i32,
  x: f64,
  y: f64,
  startX: f64,
  startY: f64,
  room: usize,
): i32 {
  const stride = (<usize>width) << 2;
  const left = x - 0.5 - <f64>RADIUS;
  const top = y - 0.5 - <f64>RADIUS;
  const ix = <i32>floor<f64>(left);
  const iy = <i32>floor<f64>(top);
  if (ix < 1 || iy < 1 || ix + SIDE + 2 >= width || iy + SIDE + 2 >= height) return 0;
  const rim = from + ((<usize>((iy - 1) * width + ix - 1)) << 2);
  readPatch(rim, stride, f32x4.splat(<f32>(left - <f64>ix)), f32x4.splat(<f32>(top - <f64>iy)), room);
  let xx = f32x4.splat(0);
  let xy = f32x4.splat(0);
  let yy = f32x4.splat(0);
  for (let k: usize = 0; k < 13 * ROW; k += 16) {
    const gx = v128.load(room + k, SLOPE_X);
    const gy = v128.load(room + k, SLOPE_Y);
    xx = f32x4.add(xx, f32x4.mul(gx, gx));
    xy = f32x4.add(xy, f32x4.mul(gx, gy));
    yy = f32x4.add(yy, f32x4.mul(gy, gy));
  }
  const gxx = sumOf(xx);
  const gxy = sumOf(xy);
  const gyy = sumOf(yy);
  const det = gxx * gyy - gxy * gxy;
  if (det < 1e-10) return 0;
  let dx = startX;
  let dy = startY;
  for (let round = 0; round < ROUNDS; round++) {
    const l = left + dx;
    const t = top + dy;
    // what is far outside, or no number, has no place to look at
    if (!(l >= 0 && t >= 0 && l < <f64>width && t < <f64>height)) return 0;
    const jx = <i32>floor<f64>(l);
    const jy = <i32>floor<f64>(t);
    if (jx + SIDE + 1 >= width || jy + SIDE + 1 >= height) return 0;
    const fx = f32x4.splat(<f32>(l - <f64>jx));
    const fy = f32x4.splat(<f32>(t - <f64>jy));
    let bx = f32x4.splat(0);
    let by = f32x4.splat(0);
    let row = to + ((<usize>(jy * width + jx)) << 2);
    for (let v: usize = 0; v < 13; v++, row += stride)
      for (let u: usize = 0; u < ROW; u += 16) {
        const at = room + v * ROW + u;
        const off = inWindow(f32x4.sub(v128.load(at, PATCH), between(row + u, stride, fx, fy)), u);
        bx = f32x4.add(bx, f32x4.mul(off, v128.load(at, SLOPE_X)));
        by = f32x4.add(by, f32x4.mul(off, v128.load(at, SLOPE_Y)));
      }
    const sumX = sumOf(bx);
    const sumY = sumOf(by);
    const sx = (gyy * sumX - gxy * sumY) / det;
    const sy = (gxx * sumY - gxy * sumX) / det;
    dx += sx;
    dy += sy;
    if (sx * sx + sy * sy < SETTLED_PX * SETTLED_PX) break;
  }
  store<f64>(room, dx);
  store<f64>(room, dy, 8);
  return 1;
}
