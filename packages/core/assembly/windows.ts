// matte/boxMean.ts and matte/guidedFilter.ts, row by row and to the bit: sums and what is made of them are doubles.
// Sums of columns begin with one zero more than a window reaches past the picture, and end with as many.

/** Samples of two planes beside one another, as doubles. */
function two(p: usize, q: usize): v128 {
  return f64x2.promote_low_f32x4(v128.load32_lane(q, v128.load32_zero(p), 1));
}
/** Columns of a window round column `x` that lie in the picture. */
function columns(x: i32, n: i32, radius: i32): i32 {
  return min(x + radius, n - 1) - max(x - radius, 0) + 1;
}

/** boxMean.ts, slide: a row of `n` samples, rounded up to two, comes into the sums of the columns, another goes. */
export function slide(n: i32, coming: usize, going: usize, sums: usize): void {
  for (let x: usize = 0; x < <usize>n; x += 2) {
    const comes = f64x2.promote_low_f32x4(v128.load64_zero(coming + (x << 2)));
    const goes = f64x2.promote_low_f32x4(v128.load64_zero(going + (x << 2)));
    const at = sums + (x << 3);
    v128.store(at, f64x2.add(v128.load(at), f64x2.sub(comes, goes)));
  }
}
/** boxMean.ts, meansOfRow: `padded` are the sums with the zeros before them. */
export function meansOfRow(n: i32, radius: i32, rows: i32, padded: usize, out: usize): void {
  let sum: f64 = 0;
  for (let k = radius + 1; k <= 2 * radius; k++) sum += load<f64>(padded + ((<usize>k) << 3));
  const ahead = (<usize>(2 * radius + 1)) << 3;
  for (let x = 0; x < n; x++) {
    const at = padded + ((<usize>x) << 3);
    sum += load<f64>(at + ahead) - load<f64>(at);
    store<f32>(out + ((<usize>x) << 2), <f32>(sum / <f64>(rows * columns(x, n, radius))));
  }
}

/** guidedFilter.ts, slideGuided: four sums a column. */
export function slideGuided(
  n: i32,
  guideComing: usize,
  planeComing: usize,
  guideGoing: usize,
  planeGoing: usize,
  sums: usize,
): void {
  for (let x: usize = 0; x < <usize>n; x++) {
    const comes = two(guideComing + (x << 2), planeComing + (x << 2));
    const goes = two(guideGoing + (x << 2), planeGoing + (x << 2));
    const at = sums + (x << 5);
    v128.store(at, f64x2.add(v128.load(at), f64x2.sub(comes, goes)));
    const byGuide = f64x2.sub(
      f64x2.mul(f64x2.splat(f64x2.extract_lane(comes, 0)), comes),
      f64x2.mul(f64x2.splat(f64x2.extract_lane(goes, 0)), goes),
    );
    v128.store(at, f64x2.add(v128.load(at, 16), byGuide), 16);
  }
}
/** guidedFilter.ts, linesOfRow. */
export function linesOfRow(
  n: i32,
  radius: i32,
  rows: i32,
  epsilon: f64,
  padded: usize,
  slope: usize,
  offset: usize,
): void {
  let sum = f64x2.splat(0);
  let sumByGuide = f64x2.splat(0);
  for (let k = radius + 1; k <= 2 * radius; k++) {
    const at = padded + ((<usize>k) << 5);
    sum = f64x2.add(sum, v128.load(at));
    sumByGuide = f64x2.add(sumByGuide, v128.load(at, 16));
  }
  const ahead = (<usize>(2 * radius + 1)) << 5;
  for (let x = 0; x < n; x++) {
    const at = padded + ((<usize>x) << 5);
    sum = f64x2.add(sum, f64x2.sub(v128.load(at + ahead), v128.load(at)));
    sumByGuide = f64x2.add(sumByGuide, f64x2.sub(v128.load(at + ahead, 16), v128.load(at, 16)));
    const area = <f64>(rows * columns(x, n, radius));
    const guide = f64x2.extract_lane(sum, 0);
    const both = f64x2.sub(f64x2.mul(f64x2.splat(area), sumByGuide), f64x2.mul(f64x2.splat(guide), sum));
    const variance = max<f64>(f64x2.extract_lane(both, 0), 0);
    const steep = f64x2.extract_lane(both, 1) / (variance + area * area * epsilon);
    store<f32>(slope + ((<usize>x) << 2), <f32>steep);
    store<f32>(offset + ((<usize>x) << 2), <f32>((f64x2.extract_lane(sum, 1) - steep * guide) / area));
  }
}
/** guidedFilter.ts, slideLines: two sums a column. */
export function slideLines(
  n: i32,
  slopeComing: usize,
  offsetComing: usize,
  slopeGoing: usize,
  offsetGoing: usize,
  sums: usize,
): void {
  for (let x: usize = 0; x < <usize>n; x++) {
    const comes = two(slopeComing + (x << 2), offsetComing + (x << 2));
    const goes = two(slopeGoing + (x << 2), offsetGoing + (x << 2));
    const at = sums + (x << 4);
    v128.store(at, f64x2.add(v128.load(at), f64x2.sub(comes, goes)));
  }
}
/** guidedFilter.ts, filteredRow. */
export function filteredRow(n: i32, radius: i32, rows: i32, padded: usize, guide: usize, out: usize): void {
  let sum = f64x2.splat(0);
  for (let k = radius + 1; k <= 2 * radius; k++) sum = f64x2.add(sum, v128.load(padded + ((<usize>k) << 4)));
  const ahead = (<usize>(2 * radius + 1)) << 4;
  for (let x = 0; x < n; x++) {
    const at = padded + ((<usize>x) << 4);
    sum = f64x2.add(sum, f64x2.sub(v128.load(at + ahead), v128.load(at)));
    const value = f64x2.extract_lane(sum, 0) * <f64>load<f32>(guide + ((<usize>x) << 2)) + f64x2.extract_lane(sum, 1);
    store<f32>(out + ((<usize>x) << 2), <f32>(value / <f64>(rows * columns(x, n, radius))));
  }
}
