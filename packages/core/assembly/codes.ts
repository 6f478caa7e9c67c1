// Between codes and light, sample by sample: tables are read, which no four lanes can do at once. What is worked on, to
// the bit as in src/; which function of it is named beside each.

/** Is any of `n` samples, a multiple of 4, above 0? */
export function anyAbove0(n: i32, plane: usize): bool {
  for (let i: usize = 0; i < (<usize>n) << 2; i += 16)
    if (v128.any_true(f32x4.gt(v128.load(plane + i), f32x4.splat(0)))) return true;
  return false;
}

/** Is none of four samples above 0? An address of 0 is no plane. */
function none(plane: usize, i: usize): bool {
  return plane !== 0 && !v128.any_true(f32x4.gt(v128.load(plane + (i << 2)), f32x4.splat(0)));
}
/** Four floats of a table, at these of its places. */
function four(table: usize, a: u32, b: u32, c: u32, d: u32): v128 {
  let floats = v128.load32_zero(table + ((<usize>a) << 2));
  floats = v128.load32_lane(table + ((<usize>b) << 2), floats, 1);
  floats = v128.load32_lane(table + ((<usize>c) << 2), floats, 2);
  return v128.load32_lane(table + ((<usize>d) << 2), floats, 3);
}
/** pipeline/picture.ts, decodeInto: `n` codes of one byte, a multiple of 4, those where a plane `where` is above 0. */
export function lightOf8(n: i32, codes: usize, table: usize, where: usize, out: usize): void {
  for (let i: usize = 0; i < <usize>n; i += 4) {
    if (none(where, i)) continue;
    const all = load<u32>(codes + i);
    v128.store(out + (i << 2), four(table, all & 255, (all >> 8) & 255, (all >> 16) & 255, all >> 24));
  }
}
/** The same of two bytes. */
export function lightOf16(n: i32, codes: usize, table: usize, where: usize, out: usize): void {
  for (let i: usize = 0; i < <usize>n; i += 4) {
    if (none(where, i)) continue;
    const two = load<u32>(codes + (i << 1));
    const next = load<u32>(codes + (i << 1), 4);
    v128.store(out + (i << 2), four(table, two & 65535, two >> 16, next & 65535, next >> 16));
  }
}

/** colour/encoding.ts, mix: `m` is a 3 × 3 of doubles. */
export function mix(n: i32, r: usize, g: usize, b: usize, m: usize): void {
  for (let i: usize = 0; i < (<usize>n) << 2; i += 4) {
    const R = <f64>load<f32>(r + i);
    const G = <f64>load<f32>(g + i);
    const B = <f64>load<f32>(b + i);
    store<f32>(r + i, <f32>(load<f64>(m) * R + load<f64>(m, 8) * G + load<f64>(m, 16) * B));
    store<f32>(g + i, <f32>(load<f64>(m, 24) * R + load<f64>(m, 32) * G + load<f64>(m, 40) * B));
    store<f32>(b + i, <f32>(load<f64>(m, 48) * R + load<f64>(m, 56) * G + load<f64>(m, 64) * B));
  }
}

/** Two samples of a table: where they stand in it, and their bits below a step. Value and slope lie side by side. */
function looked(table: usize, first: i32, second: i32, rest: v128): v128 {
  const p = v128.load(table + ((<usize>first) << 4));
  const q = v128.load(table + ((<usize>second) << 4));
  const slope = f64x2.mul(i64x2.shuffle(p, q, 1, 3), f64x2.convert_low_i32x4_s(rest));
  return f32x4.demote_f64x2_zero(f64x2.add(i64x2.shuffle(p, q, 0, 2), slope));
}
/** pipeline/picture.ts, codesFromEncoded, of two samples. */
function rounded(value: v128, maxCode: v128): v128 {
  const scaled = f64x2.add(f64x2.mul(f64x2.promote_low_f32x4(value), maxCode), f64x2.splat(0.5));
  return i32x4.trunc_sat_f64x2_u_zero(f64x2.pmin(f64x2.pmax(scaled, f64x2.splat(0)), maxCode));
}

/**
 * colour/lookupTable.ts, into, and codes of that where `alpha` is above 0: `n` samples, a multiple of 4, of one byte
 * for a `maxCode` of 255, else of two. Gives how many lie outside the table; which they are stands at `outside`, four
 * bytes each.
 */
export function codes(
  n: i32,
  light: usize,
  alpha: usize,
  table: usize,
  first: i32,
  steps: i32,
  shift: i32,
  maxCode: i32,
  out: usize,
  outside: usize,
): i32 {
  const most = f64x2.splat(<f64>maxCode);
  const below = i32x4.splat((1 << shift) - 1);
  let count: i32 = 0;
  for (let i: usize = 0; i < <usize>n; i += 4) {
    const isWanted = f32x4.gt(v128.load(alpha + (i << 2)), f32x4.splat(0));
    if (!v128.any_true(isWanted)) continue;
    const bits = v128.load(light + (i << 2));
    const step = i32x4.sub(i32x4.shr_s(bits, shift), i32x4.splat(first));
    const held = i32x4.max_s(i32x4.min_s(step, i32x4.splat(steps - 1)), i32x4.splat(0));
    const isHeld = i32x4.eq(step, held);
    for (let lanes = i32x4.bitmask(v128.andnot(isWanted, isHeld)); lanes !== 0; lanes &= lanes - 1) {
      store<i32>(outside + ((<usize>count) << 2), <i32>i + ctz(lanes));
      count++;
    }
    const rest = v128.and(bits, below);
    const upperRest = i64x2.shuffle(rest, rest, 1, 1);
    const lower = looked(table, i32x4.extract_lane(held, 0), i32x4.extract_lane(held, 1), rest);
    const upper = looked(table, i32x4.extract_lane(held, 2), i32x4.extract_lane(held, 3), upperRest);
    const found = i64x2.shuffle(rounded(lower, most), rounded(upper, most), 0, 2);
    const own = i16x8.narrow_i32x4_u(found, found);
    const isOwn = i16x8.narrow_i32x4_s(v128.and(isWanted, isHeld), i32x4.splat(0));
    if (maxCode === 255) {
      const was = v128.load32_zero(out + i);
      const bytes = v128.bitselect(i8x16.narrow_i16x8_u(own, own), was, i8x16.narrow_i16x8_s(isOwn, isOwn));
      v128.store32_lane(out + i, bytes, 0);
    } else {
      const was = v128.load64_zero(out + (i << 1));
      v128.store64_lane(out + (i << 1), v128.bitselect(own, was, isOwn), 0);
    }
  }
  return count;
}
