// sRGB transfer, IEC 61966-2-1:1999 clause 5.2 (as amended 2003), mirrored for negative values as xvYCC and CSS Color 4
// do.

const LINEAR_SLOPE = 12.92;
const OFFSET = 0.055;
const EXPONENT = 2.4;
/** Where the straight part ends, on the code side and on the light side. */
const CODE_KNEE = 0.04045;
const LINEAR_KNEE = 0.0031308;

/** Linear light of an sRGB code value, both nominally 0..1. */
export function linearFromSrgb(code: number): number {
  const v = Math.abs(code);
  const linear = v <= CODE_KNEE ? v / LINEAR_SLOPE : ((v + OFFSET) / (1 + OFFSET)) ** EXPONENT;
  return code < 0 ? -linear : linear;
}

/** sRGB code value of linear light, both nominally 0..1; unclamped. */
export function srgbFromLinear(linear: number): number {
  const v = Math.abs(linear);
  const code = v <= LINEAR_KNEE ? v * LINEAR_SLOPE : (1 + OFFSET) * v ** (1 / EXPONENT) - OFFSET;
  return linear < 0 ? -code : code;
}
