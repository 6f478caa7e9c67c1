// Colour of four pixels at once. Each function is what a TypeScript function of src/ does, which is named beside it.

/** A number in memory in all four lanes. */
function all(address: usize, index: i32): v128 {
  return v128.load32_splat(address + ((<usize>index) << 2));
}

/** A row of a 3 × 3 at `m`, times x, y, z. */
function row(m: usize, first: i32, x: v128, y: v128, z: v128): v128 {
  return f32x4.add(
    f32x4.add(f32x4.mul(all(m, first), x), f32x4.mul(all(m, first + 1), y)),
    f32x4.mul(all(m, first + 2), z),
  );
}

/** A step of Halley's for the cube root of x: two of them take a guess within 4 % to the last bits. */
function halley(y: v128, x: v128): v128 {
  const cube = f32x4.mul(f32x4.mul(y, y), y);
  const more = f32x4.add(cube, f32x4.add(x, x));
  const less = f32x4.add(f32x4.add(cube, cube), x);
  return f32x4.mul(y, f32x4.div(more, less));
}
/**
 * Math.cbrt. The first guess is a third of the float's bits (W. Kahan, "Computing a real cube root", 1991), taken of an
 * eighth so that nothing overflows. 0, infinities and NaN are their own root; so is what is too small to be normal.
 */
function cubeRoot(x: v128): v128 {
  const sign = v128.and(x, i32x4.splat(<i32>0x80000000));
  const size = v128.andnot(x, i32x4.splat(<i32>0x80000000));
  const eighth = f32x4.mul(size, f32x4.splat(0.125));
  // a third of its bits but the lowest eight: added to 2^23, a float is an integer in its own lowest bits
  const third = f32x4.mul(f32x4.convert_i32x4_s(i32x4.shr_u(eighth, 8)), f32x4.splat(1.0 / 3.0));
  const guess = i32x4.add(i32x4.shl(f32x4.add(third, f32x4.splat(8388608)), 8), i32x4.splat(709921077));
  const y = halley(halley(guess, eighth), eighth);
  const root = v128.or(f32x4.add(y, y), sign);
  const isPlain = v128.and(f32x4.ge(size, f32x4.splat(1e-36)), f32x4.le(size, f32x4.splat(3.4e38)));
  return v128.bitselect(root, x, isPlain);
}

/**
 * colour/oklabPlanes.ts, oklabFromLinear709Into: `n` samples, a multiple of 4. `m`: two 3 × 3, light to cones and roots
 * to OKLab.
 */
export function oklab(n: i32, r: usize, g: usize, b: usize, outL: usize, outA: usize, outB: usize, m: usize): void {
  for (let i: usize = 0; i < (<usize>n) << 2; i += 16) {
    const R = v128.load(r + i);
    const G = v128.load(g + i);
    const B = v128.load(b + i);
    const l = cubeRoot(row(m, 0, R, G, B));
    const s = cubeRoot(row(m, 3, R, G, B));
    const t = cubeRoot(row(m, 6, R, G, B));
    v128.store(outL + i, row(m, 9, l, s, t));
    v128.store(outA + i, row(m, 12, l, s, t));
    v128.store(outB + i, row(m, 15, l, s, t));
  }
}

function cubed(x: v128): v128 {
  return f32x4.mul(f32x4.mul(x, x), x);
}
/** A channel as it becomes: what is linear, and what the cubes have changed by; where the weight is 0 it stays. */
function turned(m: usize, k: i32, R: v128, G: v128, B: v128, l: v128, s: v128, t: v128, own: v128, weight: v128): v128 {
  const next = f32x4.add(row(m, k, R, G, B), row(m, 27 + k, l, s, t));
  const mixed = f32x4.add(own, f32x4.mul(f32x4.sub(next, own), weight));
  return v128.bitselect(own, mixed, f32x4.eq(weight, f32x4.splat(0)));
}
/**
 * recolour/recolourInto.ts, plainInto: `n` samples, a multiple of 4, in place. `m`: the program's linear, toLms,
 * between and fromLms, a 3 × 3 each.
 */
export function recolour(n: i32, r: usize, g: usize, b: usize, alpha: usize, strength: f32, m: usize): void {
  for (let i: usize = 0; i < (<usize>n) << 2; i += 16) {
    const weight = f32x4.mul(v128.load(alpha + i), f32x4.splat(strength));
    if (!v128.any_true(f32x4.ne(weight, f32x4.splat(0)))) continue;
    const R = v128.load(r + i);
    const G = v128.load(g + i);
    const B = v128.load(b + i);
    const l = cubeRoot(row(m, 9, R, G, B));
    const s = cubeRoot(row(m, 12, R, G, B));
    const t = cubeRoot(row(m, 15, R, G, B));
    const dl = f32x4.sub(cubed(row(m, 18, l, s, t)), cubed(l));
    const ds = f32x4.sub(cubed(row(m, 21, l, s, t)), cubed(s));
    const dt = f32x4.sub(cubed(row(m, 24, l, s, t)), cubed(t));
    v128.store(r + i, turned(m, 0, R, G, B, dl, ds, dt, R, weight));
    v128.store(g + i, turned(m, 3, R, G, B, dl, ds, dt, G, weight));
    v128.store(b + i, turned(m, 6, R, G, B, dl, ds, dt, B, weight));
  }
}

// `pmin` and `pmax` are single instructions where `min` and `max`, which also order zeros and look for NaN on either
// side, are eight: the first operand is the one that may be NaN, and no sign of a zero outlasts what is done with it.

/** key/window.ts, smoothstep. */
function smoothstep(x: v128): v128 {
  const t = f32x4.pmin(f32x4.pmax(x, f32x4.splat(0)), f32x4.splat(1));
  return f32x4.mul(f32x4.mul(t, t), f32x4.sub(f32x4.splat(3), f32x4.add(t, t)));
}
/** key/window.ts, fall, before it is smoothed; `steep` is 1 / soft. */
function fall(distance: v128, steep: v128): v128 {
  return f32x4.sub(f32x4.splat(1), f32x4.mul(distance, steep));
}
/**
 * key/window.ts, windowAt: the lesser of two falls is the lesser smoothed too. At `w`: lo, hi, 1 / softLo, 1 / softHi.
 */
function windowAt(w: usize, x: v128): v128 {
  const below = fall(f32x4.sub(all(w, 0), x), all(w, 2));
  const above = fall(f32x4.sub(x, all(w, 1)), all(w, 3));
  return smoothstep(f32x4.pmin(below, above));
}
/** colour/angle.ts, fastAngleDeg. */
function angleDeg(y: v128, x: v128): v128 {
  const ax = f32x4.abs(x);
  const ay = f32x4.abs(y);
  const steep = f32x4.gt(ay, ax);
  const long = f32x4.pmax(f32x4.pmax(ax, ay), f32x4.splat(1e-30));
  const t = f32x4.div(f32x4.pmin(ax, ay), long);
  const q = f32x4.mul(t, t);
  let p = f32x4.splat(0.0028662257);
  p = f32x4.add(f32x4.mul(p, q), f32x4.splat(-0.0161657367));
  p = f32x4.add(f32x4.mul(p, q), f32x4.splat(0.0429096138));
  p = f32x4.add(f32x4.mul(p, q), f32x4.splat(-0.07528964));
  p = f32x4.add(f32x4.mul(p, q), f32x4.splat(0.1065626393));
  p = f32x4.add(f32x4.mul(p, q), f32x4.splat(-0.1420889944));
  p = f32x4.add(f32x4.mul(p, q), f32x4.splat(0.1999355085));
  p = f32x4.add(f32x4.mul(p, q), f32x4.splat(-0.3333314528));
  p = f32x4.add(f32x4.mul(p, q), f32x4.splat(1));
  let angle = f32x4.mul(f32x4.mul(t, p), f32x4.splat(57.29577951308232));
  angle = v128.bitselect(f32x4.sub(f32x4.splat(90), angle), angle, steep);
  angle = v128.bitselect(f32x4.sub(f32x4.splat(180), angle), angle, f32x4.lt(x, f32x4.splat(0)));
  return v128.bitselect(f32x4.neg(angle), angle, f32x4.lt(y, f32x4.splat(0)));
}
/** key/window.ts, hueWindowAt. At `w`: lo, hi − lo, 1 / softLo, 1 / softHi. */
function hueWindowAt(w: usize, hueDeg: v128): v128 {
  const turn = f32x4.sub(hueDeg, all(w, 0));
  const turns = f32x4.floor(f32x4.mul(turn, f32x4.splat(1.0 / 360.0)));
  const above = f32x4.sub(turn, f32x4.mul(turns, f32x4.splat(360)));
  const past = fall(f32x4.sub(above, all(w, 1)), all(w, 3));
  const before = fall(f32x4.sub(f32x4.splat(360), above), all(w, 2));
  return smoothstep(f32x4.pmax(past, before));
}
/** Which of four lie among the hues that the window at `w` reaches: what lies beyond costs no angle. */
function isNear(w: usize, x: v128, y: v128, chroma: v128): v128 {
  const along = f32x4.add(f32x4.mul(x, all(w, 13)), f32x4.mul(y, all(w, 14)));
  return v128.not(f32x4.lt(along, f32x4.mul(chroma, all(w, 15))));
}
/** α of lightness and chroma, with that of hue where asked for. */
function keyed(w: usize, L: v128, x: v128, y: v128, chroma: v128, near: v128, hasHue: bool): v128 {
  const alpha = f32x4.mul(windowAt(w, L), windowAt(w + 16, chroma));
  if (!hasHue) return alpha;
  const fade = smoothstep(f32x4.mul(chroma, all(w, 12)));
  const ofHue = f32x4.mul(hueWindowAt(w + 32, angleDeg(y, x)), fade);
  return f32x4.mul(v128.and(alpha, near), ofHue);
}
/**
 * key/rangeKey.ts, rangeKeyInto: `n` samples, a multiple of 4. `w`: the windows of lightness, chroma and hue, four
 * numbers each, then 1 over the chroma in which hue fades in, then the cosine and sine of the middle of the hues that
 * the window reaches and the cosine of how far it reaches from there.
 */
export function rangeKey(n: i32, L: usize, a: usize, b: usize, out: usize, w: usize, hasHue: bool): void {
  for (let i: usize = 0; i < (<usize>n) << 2; i += 16) {
    const x = v128.load(a + i);
    const y = v128.load(b + i);
    const chroma = f32x4.sqrt(f32x4.add(f32x4.mul(x, x), f32x4.mul(y, y)));
    const near = isNear(w, x, y, chroma);
    let alpha = f32x4.splat(0);
    if (!hasHue || v128.any_true(near)) alpha = keyed(w, v128.load(L + i), x, y, chroma, near, hasHue);
    v128.store(out + i, alpha);
  }
}
/** The same straight from linear light, to the bit that of its OKLab. `m`: as of `oklab`. */
export function rangeKeyOfLight(
  n: i32,
  r: usize,
  g: usize,
  b: usize,
  out: usize,
  m: usize,
  w: usize,
  hasHue: bool,
): void {
  for (let i: usize = 0; i < (<usize>n) << 2; i += 16) {
    const R = v128.load(r + i);
    const G = v128.load(g + i);
    const B = v128.load(b + i);
    const l = cubeRoot(row(m, 0, R, G, B));
    const s = cubeRoot(row(m, 3, R, G, B));
    const t = cubeRoot(row(m, 6, R, G, B));
    const x = row(m, 12, l, s, t);
    const y = row(m, 15, l, s, t);
    const chroma = f32x4.sqrt(f32x4.add(f32x4.mul(x, x), f32x4.mul(y, y)));
    const near = isNear(w, x, y, chroma);
    let alpha = f32x4.splat(0);
    if (!hasHue || v128.any_true(near)) alpha = keyed(w, row(m, 9, l, s, t), x, y, chroma, near, hasHue);
    v128.store(out + i, alpha);
  }
}
