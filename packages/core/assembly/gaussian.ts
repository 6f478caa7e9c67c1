// matte/gaussian.ts, blurLines, of two lines at once. Sums are of double precision, as there.

/** A number in memory in both lanes. */
function both(address: usize, index: i32): v128 {
  return v128.load64_splat(address + ((<usize>index) << 3));
}

/** One direction of the recursion for two lines: the newest four samples and results go round in these. */
function next(m: usize, x: v128, x1: v128, x2: v128, x3: v128, y1: v128, y2: v128, y3: v128, y4: v128): v128 {
  const fed = f64x2.add(
    f64x2.add(f64x2.mul(both(m, 0), x), f64x2.mul(both(m, 1), x1)),
    f64x2.add(f64x2.mul(both(m, 2), x2), f64x2.mul(both(m, 3), x3)),
  );
  const back = f64x2.add(
    f64x2.add(f64x2.mul(both(m, 4), y1), f64x2.mul(both(m, 5), y2)),
    f64x2.add(f64x2.mul(both(m, 6), y3), f64x2.mul(both(m, 7), y4)),
  );
  return f64x2.sub(fed, back);
}

/** A sample of two lines, which lie `step` bytes apart. */
function pair(at: usize, step: usize): v128 {
  const lower = v128.load32_zero(at);
  return f64x2.promote_low_f32x4(v128.load32_lane(at + step, lower, 1));
}
function storePair(at: usize, step: usize, two: v128): void {
  const floats = f32x4.demote_f64x2_zero(two);
  v128.store32_lane(at, floats, 0);
  v128.store32_lane(at + step, floats, 1);
}

/**
 * Blurs two lines of `length` samples in place: the first begins at `plane`, the other `step` bytes on; the samples of
 * one are `along` bytes apart. `forward`: room for 16 bytes a sample. `there` and `back`: four feed-forward numbers,
 * four of feedback, and the gain of a constant, doubles each.
 */
function blurTwo(
  plane: usize,
  length: i32,
  along: usize,
  step: usize,
  forward: usize,
  there: usize,
  back: usize,
): void {
  const first = pair(plane, step);
  let x1 = first;
  let x2 = first;
  let x3 = first;
  let y1 = f64x2.mul(first, both(there, 8));
  let y2 = y1;
  let y3 = y1;
  let y4 = y1;
  let at = plane;
  for (let i = 0; i < length; i++) {
    const x = pair(at, step);
    const y = next(there, x, x1, x2, x3, y1, y2, y3, y4);
    v128.store(forward + ((<usize>i) << 4), y);
    x3 = x2;
    x2 = x1;
    x1 = x;
    y4 = y3;
    y3 = y2;
    y2 = y1;
    y1 = y;
    at += along;
  }
  at -= along;
  const last = pair(at, step);
  x1 = last;
  x2 = last;
  x3 = last;
  let x4 = last;
  y1 = f64x2.mul(last, both(back, 8));
  y2 = y1;
  y3 = y1;
  y4 = y1;
  for (let i = length - 1; i >= 0; i--) {
    const y = next(back, x1, x2, x3, x4, y1, y2, y3, y4);
    x4 = x3;
    x3 = x2;
    x2 = x1;
    x1 = pair(at, step);
    y4 = y3;
    y3 = y2;
    y2 = y1;
    y1 = y;
    storePair(at, step, f64x2.add(v128.load(forward + ((<usize>i) << 4)), y));
    at -= along;
  }
}

/** Blurs `count` lines, an even number, in place; see `blurTwo`. */
export function blurLines(
  plane: usize,
  count: i32,
  step: usize,
  length: i32,
  along: usize,
  forward: usize,
  there: usize,
  back: usize,
): void {
  for (let k = 0; k < count; k += 2) blurTwo(plane + <usize>k * step, length, along, step, forward, there, back);
}
