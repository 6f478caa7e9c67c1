// α of mattes, to the bit as in src/matte.

/** Two samples as doubles, those of the lower half or those of the upper. */
function half(four: v128, isUpper: bool): v128 {
  return f64x2.promote_low_f32x4(isUpper ? i64x2.shuffle(four, four, 1, 1) : four);
}
/** 0 adds, 1 keeps within, 2 keeps without. */
function joined(stack: v128, layer: v128, mode: i32, strength: v128): v128 {
  const one = f64x2.splat(1);
  if (mode === 0) return f64x2.max(stack, f64x2.mul(strength, layer));
  const out = mode === 1 ? f64x2.sub(one, layer) : layer;
  return f64x2.mul(stack, f64x2.sub(one, f64x2.mul(strength, out)));
}
/** matte/stack.ts, combineInto: `n` samples, a multiple of 4, in place. */
export function join(n: i32, stack: usize, layer: usize, mode: i32, strength: f64): void {
  const by = f64x2.splat(strength);
  for (let i: usize = 0; i < (<usize>n) << 2; i += 16) {
    const s = v128.load(stack + i);
    const a = v128.load(layer + i);
    const lower = f32x4.demote_f64x2_zero(joined(half(s, false), half(a, false), mode, by));
    const upper = f32x4.demote_f64x2_zero(joined(half(s, true), half(a, true), mode, by));
    v128.store(stack + i, i64x2.shuffle(lower, upper, 0, 2));
  }
}

/** matte/between.ts, pixelsBetween: writes where samples lie between, counted from `first`; gives how many. */
export function between(n: i32, plane: usize, least: f32, most: f32, first: i32, out: usize): i32 {
  let found = 0;
  for (let i = 0; i < n; i += 4) {
    const four = v128.load(plane + ((<usize>i) << 2));
    const isBetween = v128.and(f32x4.gt(four, f32x4.splat(least)), f32x4.lt(four, f32x4.splat(most)));
    for (let lanes = i32x4.bitmask(isBetween); lanes !== 0; lanes &= lanes - 1) {
      store<i32>(out + ((<usize>found) << 2), first + i + ctz(lanes));
      found++;
    }
  }
  return found;
}
