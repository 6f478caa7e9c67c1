// Between codes and light, sample by sample: tables are read, which no four lanes can do at once. What is worked on, to
// the bit as in src/; which function of it is named beside each.

/** Is any of `n` samples, a multiple of 4, above 0? */
export function anyAbove0(n: i32, plane: usize): bool {
  for (let i: usize = 0; i < (<usize>n) << 2; i += 16)
    if (v128.any_true(f32x4.gt(v128.load(plane + i), f32x4.splat(0)))) return true;
  return false;
}

/** pipeline/picture.ts, decodeInto: `n` codes of one byte. */
export function lightOf8(n: i32, codes: usize, table: usize, out: usize): void {
  for (let i: usize = 0; i < <usize>n; i++)
    store<f32>(out + (i << 2), load<f32>(table + ((<usize>load<u8>(codes + i)) << 2)));
}
/** The same of two bytes. */
export function lightOf16(n: i32, codes: usize, table: usize, out: usize): void {
  for (let i: usize = 0; i < <usize>n; i++)
    store<f32>(out + (i << 2), load<f32>(table + ((<usize>load<u16>(codes + (i << 1))) << 2)));
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

/** colour/lookupTable.ts, into, of one sample; −1, which no code is, where the table does not hold it. */
function encoded(bits: i32, table: usize, first: i32, steps: i32, shift: i32): f64 {
  const step = (bits >> shift) - first;
  if (<u32>step >= <u32>steps) return -1;
  const pair = table + ((<usize>step) << 4);
  return <f64>(<f32>(load<f64>(pair) + load<f64>(pair, 8) * <f64>(bits & ((1 << shift) - 1))));
}
/** pipeline/picture.ts, codesFromEncoded. */
function codeOf(value: f64, maxCode: f64): u32 {
  return <u32>min<f64>(max<f64>(value * maxCode + 0.5, 0), maxCode);
}

/**
 * Light to codes where `alpha` is above 0: `n` samples, of one byte for a `maxCode` of 255, else of two. Gives how many
 * lie outside the table; which they are stands at `outside`, four bytes each.
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
  let count: i32 = 0;
  for (let i: usize = 0; i < <usize>n; i++) {
    // most of a picture lies outside: four at once
    while (i + 4 <= <usize>n && !v128.any_true(f32x4.gt(v128.load(alpha + (i << 2)), f32x4.splat(0)))) i += 4;
    if (i >= <usize>n) break;
    if (!(load<f32>(alpha + (i << 2)) > 0)) continue;
    const value = encoded(load<i32>(light + (i << 2)), table, first, steps, shift);
    if (value == -1) {
      store<i32>(outside + ((<usize>count) << 2), <i32>i);
      count++;
    } else if (maxCode == 255) store<u8>(out + i, <u8>codeOf(value, 255));
    else store<u16>(out + (i << 1), <u16>codeOf(value, 65535));
  }
  return count;
}
