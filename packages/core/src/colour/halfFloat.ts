// Half floats: binary16 of IEEE 754-2019.

const bits = new DataView(new ArrayBuffer(4));
/** IEEE 754 binary16 of a number, rounded to nearest, ties to even; past its range infinity. */
export function halfFromFloat(value: number): number {
  bits.setFloat32(0, value);
  const from = bits.getUint32(0);
  const sign = (from >>> 16) & 0x8000;
  const exponent = (from >>> 23) & 0xff;
  const mantissa = from & 0x7fffff;
  if (exponent === 0xff) return sign | 0x7c00 | (mantissa ? 0x200 : 0);
  const rebased = exponent - 127 + 15;
  if (rebased >= 31) return sign | 0x7c00;
  // subnormals keep the leading bit and are moved right
  const [whole, shift] = rebased > 0 ? [(rebased << 23) | mantissa, 13] : [mantissa | 0x800000, 14 - rebased];
  if (shift > 24) return sign;
  const rest = whole & ((1 << shift) - 1);
  const tie = 1 << (shift - 1);
  const down = whole >>> shift;
  // carried over it becomes the next exponent, which is right
  return sign | (down + (rest > tie || (rest === tie && down & 1) ? 1 : 0));
}

/** The greatest number that a half float holds. */
export const GREATEST_HALF = 65504;
/** A number that half floats hold: infinities become the greatest, what is no number 0. */
export const finiteHalf = (value: number): number =>
  Number.isNaN(value) ? 0 : Math.min(Math.max(value, -GREATEST_HALF), GREATEST_HALF);

/** The number that 16 bits of binary16 stand for. */
export function floatFromHalf(half: number): number {
  const sign = half & 0x8000 ? -1 : 1;
  const exponent = (half >>> 10) & 0x1f;
  const mantissa = half & 0x3ff;
  if (exponent === 0x1f) return mantissa ? NaN : sign * Infinity;
  return exponent === 0 ? sign * mantissa * 2 ** -24 : sign * (1024 + mantissa) * 2 ** (exponent - 25);
}
