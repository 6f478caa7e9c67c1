/** A luma picture in ever smaller sizes: level k has 1/2ᵏ of the width. Values nominally 0..1. */
export interface Level {
  width: number;
  height: number;
  luma: Float32Array;
}
export type Pyramid = readonly Level[];

/**
 * Convolves with [1 4 6 4 1]/16 both ways and keeps every second sample (Burt & Adelson 1983). Down a column first, in
 * a row of its own.
 */
function halved({ width, height, luma }: Level): Level {
  const [w, h] = [(width + 1) >> 1, (height + 1) >> 1];
  const out = new Float32Array(w * h);
  // two samples repeated on either side spare the inner loop its edges
  const row = new Float32Array(width + 4);
  for (let y = 0; y < h; y++) {
    const c = 2 * y * width;
    const b = c >= width ? c - width : c;
    const a = b >= width ? b - width : b;
    const last = (height - 1) * width;
    const d = c < last ? c + width : c;
    const e = d < last ? d + width : d;
    for (let x = 0; x < width; x++)
      row[x + 2] = luma[a + x]! + luma[e + x]! + 4 * (luma[b + x]! + luma[d + x]!) + 6 * luma[c + x]!;
    row[0] = row[1] = row[2]!;
    row[width + 2] = row[width + 3] = row[width + 1]!;
    const o = y * w;
    for (let x = 0, i = 0; x < w; x++, i += 2)
      out[o + x] = (row[i]! + row[i + 4]! + 4 * (row[i + 1]! + row[i + 3]!) + 6 * row[i + 2]!) / 256;
  }
  return { width: w, height: h, luma: out };
}

/** Convolves with [1 2 1]/4 both ways: takes the edge off noise and makes bilinear reading nearly exact. */
export function smoothed(luma: Float32Array, width: number, height: number): Float32Array {
  const out = new Float32Array(luma.length);
  const row = new Float32Array(width + 2);
  for (let y = 0; y < height; y++) {
    const c = y * width;
    const up = y > 0 ? c - width : c;
    const down = y < height - 1 ? c + width : c;
    for (let x = 0; x < width; x++) row[x + 1] = luma[up + x]! + 2 * luma[c + x]! + luma[down + x]!;
    row[0] = row[1]!;
    row[width + 1] = row[width]!;
    for (let x = 0; x < width; x++) out[c + x] = (row[x]! + 2 * row[x + 1]! + row[x + 2]!) / 16;
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
export function lumaOfCodes(
  r: ArrayLike<number>,
  g: ArrayLike<number>,
  b: ArrayLike<number>,
  maxCode: number,
): Float32Array {
  const out = new Float32Array(r.length);
  for (let i = 0; i < out.length; i++) out[i] = (0.2126 * r[i]! + 0.7152 * g[i]! + 0.0722 * b[i]!) / maxCode;
  return out;
}
