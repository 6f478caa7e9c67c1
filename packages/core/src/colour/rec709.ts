// Rec. ITU-R BT.709-6 luma and Rec. ITU-R BT.1886 display light.

/** Luma coefficients, BT.709-6 item 3.2: E'Y = 0.2126 E'R + 0.7152 E'G + 0.0722 E'B. */
export const LUMA_709 = { r: 0.2126, g: 0.7152, b: 0.0722 } as const;

/** BT.1886 Annex 1: γ = 2.4; white normalised to 1, black lift 0. */
const DISPLAY_GAMMA = 2.4;

/** Display light (1 = white) of a BT.709 signal under BT.1886 with zero black; negatives mirrored. */
export function linearFromRec709(code: number): number {
  return code < 0 ? -((-code) ** DISPLAY_GAMMA) : code ** DISPLAY_GAMMA;
}

/** BT.709 signal that a BT.1886 display turns into this light; unclamped. */
export function rec709FromLinear(linear: number): number {
  return linear < 0 ? -((-linear) ** (1 / DISPLAY_GAMMA)) : linear ** (1 / DISPLAY_GAMMA);
}
