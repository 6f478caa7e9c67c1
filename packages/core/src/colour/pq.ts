// The perceptual quantizer: Rec. ITU-R BT.2100-2 table 4 (SMPTE ST 2084), mirrored for negative values.

const M1 = 2610 / 16384;
const M2 = (2523 / 4096) * 128;
const C1 = 3424 / 4096;
const C2 = (2413 / 4096) * 32;
const C3 = (2392 / 4096) * 32;
/** The light that the full signal stands for, cd/m². */
const PEAK = 10_000;
/** Diffuse white, cd/m²: Rep. ITU-R BT.2408 table 1. It is 1 in our light. */
const DIFFUSE_WHITE = 203;

/** Display light (1 = diffuse white) of a PQ signal, nominally 0..1. */
export function linearFromPq(signal: number): number {
  const root = Math.abs(signal) ** (1 / M2);
  const light = (PEAK / DIFFUSE_WHITE) * (Math.max(root - C1, 0) / (C2 - C3 * root)) ** (1 / M1);
  return signal < 0 ? -light : light;
}

/** PQ signal of display light (1 = diffuse white). */
export function pqFromLinear(linear: number): number {
  const y = ((Math.abs(linear) * DIFFUSE_WHITE) / PEAK) ** M1;
  const signal = ((C1 + C2 * y) / (1 + C3 * y)) ** M2;
  // no light is a signal of 7.3e-7, less than any code
  if (linear === 0) return 0;
  return linear < 0 ? -signal : signal;
}
