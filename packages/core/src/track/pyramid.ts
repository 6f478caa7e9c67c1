/** A luma picture in ever smaller sizes: level k has 1/2ᵏ of the width. Values nominally 0..1. */
export interface Level {
  width: number;
  height: number;
  luma: Float32Array;
}
export type Pyramid = readonly Level[];

/** Convolves with [1 4 6 4 1]/16 both ways and keeps every second sample (Burt & Adelson 1983). */
function halved({ width, height, luma }: Level): Level {
  const [w, h] = [(width + 1) >> 1, (height + 1) >> 1];
  const across = new Float32Array(w * height);
  for (let y = 0; y < height; y++) {
    const row = y * width;
    for (let x = 0; x < w; x++) {
      const c = 2 * x;
      const [a, b] = [c > 1 ? c - 2 : c > 0 ? c - 1 : 0, c > 0 ? c - 1 : 0];
      const [d, e] = [c + 1 < width ? c + 1 : width - 1, c + 2 < width ? c + 2 : width - 1];
      across[y * w + x] = (luma[row + a]! + luma[row + e]! + 4 * (luma[row + b]! + luma[row + d]!) + 6 * luma[row + c]!) / 16;
    }
  }
  const out = new Float32Array(w * h);
  for (let y = 0; y < h; y++) {
    const c = 2 * y;
    const [a, b] = [Math.max(c - 2, 0) * w, Math.max(c - 1, 0) * w];
    const [d, e] = [Math.min(c + 1, height - 1) * w, Math.min(c + 2, height - 1) * w];
    for (let x = 0; x < w; x++) out[y * w + x] = (across[a + x]! + across[e + x]! + 4 * (across[b + x]! + across[d + x]!) + 6 * across[c * w + x]!) / 16;
  }
  return { width: w, height: h, luma: out };
}

/** Convolves with [1 2 1]/4 both ways: takes the edge off noise and makes bilinear reading nearly exact. */
export function smoothed(luma: Float32Array, width: number, height: number): Float32Array {
  const across = new Float32Array(luma.length);
  for (let y = 0; y < height; y++) {
    const row = y * width;
    across[row] = (3 * luma[row]! + luma[row + Math.min(1, width - 1)]!) / 4;
    for (let x = 1; x < width - 1; x++) across[row + x] = (luma[row + x - 1]! + 2 * luma[row + x]! + luma[row + x + 1]!) / 4;
    if (width > 1) across[row + width - 1] = (luma[row + width - 2]! + 3 * luma[row + width - 1]!) / 4;
  }
  const out = new Float32Array(luma.length);
  for (let y = 0; y < height; y++) {
    const [up, row, down] = [Math.max(y - 1, 0) * width, y * width, Math.min(y + 1, height - 1) * width];
    for (let x = 0; x < width; x++) out[row + x] = (across[up + x]! + 2 * across[row + x]! + across[down + x]!) / 4;
  }
  return out;
}

/** The pyramid of a luma plane; its ground level is lightly smoothed. */
export function pyramidOf(luma: Float32Array, width: number, height: number, levels = 4): Pyramid {
  const out: Level[] = [{ width, height, luma: smoothed(luma, width, height) }];
  while (out.length < levels && Math.min(out.at(-1)!.width, out.at(-1)!.height) >= 32) out.push(halved(out.at(-1)!));
  return out;
}

/** Encoded luma of a picture, 0..1: R′ 0.2126, G′ 0.7152, B′ 0.0722 (ITU-R BT.709). */
export function lumaOfCodes(r: ArrayLike<number>, g: ArrayLike<number>, b: ArrayLike<number>, maxCode: number): Float32Array {
  const out = new Float32Array(r.length);
  for (let i = 0; i < out.length; i++) out[i] = (0.2126 * r[i]! + 0.7152 * g[i]! + 0.0722 * b[i]!) / maxCode;
  return out;
}
