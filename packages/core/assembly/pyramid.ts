// Pyramids of luma, to the bit as in src/track/pyramid.ts: floats, each sum and product rounded.

function scaled(codes: v128, weight: usize): v128 {
  return f32x4.mul(f32x4.convert_i32x4_s(codes), v128.load32_splat(weight));
}
function luma(r: v128, g: v128, b: v128, weights: usize): v128 {
  return f32x4.add(f32x4.add(scaled(r, weights), scaled(g, weights + 4)), scaled(b, weights + 8));
}
function bytes(codes: usize): v128 {
  return i32x4.extend_low_i16x8_u(i16x8.extend_low_i8x16_u(v128.load32_zero(codes)));
}
function shorts(codes: usize): v128 {
  return i32x4.extend_low_i16x8_u(v128.load64_zero(codes));
}
/** lumaOfCodes: `n` codes of one byte, a multiple of 4; `weights` are three floats. */
export function luma8(n: i32, r: usize, g: usize, b: usize, weights: usize, out: usize): void {
  for (let i: usize = 0; i < <usize>n; i += 4)
    v128.store(out + (i << 2), luma(bytes(r + i), bytes(g + i), bytes(b + i), weights));
}
/** The same of two bytes. */
export function luma16(n: i32, r: usize, g: usize, b: usize, weights: usize, out: usize): void {
  for (let i: usize = 0; i < (<usize>n) << 1; i += 8)
    v128.store(out + (i << 1), luma(shorts(r + i), shorts(g + i), shorts(b + i), weights));
}

function twice(v: v128): v128 {
  return f32x4.add(v, v);
}
/**
 * smoothed, a row: `n` samples, of it and those above and below. `row` has room for two more, `row` and `out` for what
 * is rounded up to four.
 */
export function smoothRow(n: i32, up: usize, mid: usize, down: usize, row: usize, out: usize): void {
  const end = (<usize>n) << 2;
  for (let i: usize = 0; i < end; i += 16)
    v128.store(row + i, f32x4.add(f32x4.add(v128.load(up + i), v128.load(down + i)), twice(v128.load(mid + i))), 4);
  store<f32>(row, load<f32>(row, 4));
  store<f32>(row + end, load<f32>(row + end), 4);
  const part = f32x4.splat(0.0625);
  for (let i: usize = 0; i < end; i += 16) {
    const sides = f32x4.add(v128.load(row + i), v128.load(row + i, 8));
    v128.store(out + i, f32x4.mul(f32x4.add(sides, twice(v128.load(row + i, 4))), part));
  }
}

function weighed(a: v128, b: v128, c: v128, d: v128, e: v128): v128 {
  const inner = f32x4.mul(f32x4.add(b, d), f32x4.splat(4));
  return f32x4.add(f32x4.add(f32x4.add(a, e), inner), f32x4.mul(c, f32x4.splat(6)));
}
function even(at: usize): v128 {
  return v128.shuffle<i32>(v128.load(at), v128.load(at, 16), 0, 2, 4, 6);
}
function odd(at: usize): v128 {
  return v128.shuffle<i32>(v128.load(at), v128.load(at, 16), 1, 3, 5, 7);
}
/** halved, a row: `n` samples of five rows give (n + 1)/2. `row` has room for four more, each for rounding up. */
export function halveRow(n: i32, a: usize, b: usize, c: usize, d: usize, e: usize, row: usize, out: usize): void {
  const end = (<usize>n) << 2;
  for (let i: usize = 0; i < end; i += 16) {
    const sum = weighed(v128.load(a + i), v128.load(b + i), v128.load(c + i), v128.load(d + i), v128.load(e + i));
    v128.store(row + i, sum, 8);
  }
  const first = load<f32>(row, 8);
  const last = load<f32>(row + end, 4);
  store<f32>(row, first);
  store<f32>(row, first, 4);
  store<f32>(row + end, last, 8);
  store<f32>(row + end, last, 12);
  const part = f32x4.splat(0.00390625);
  for (let i: usize = 0; i < end; i += 32) {
    const at = row + i;
    const sum = weighed(even(at), odd(at), even(at + 8), odd(at + 8), even(at + 16));
    v128.store(out + (i >> 1), f32x4.mul(sum, part));
  }
}
