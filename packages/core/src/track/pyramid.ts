import { kernels, type Kernels } from '../kernels/module.ts';
import { RowsInTurn } from '../kernels/rowsInTurn.ts';

/** A luma picture in ever smaller sizes: level k has 1/2ᵏ of the width. Values nominally 0..1. */
export interface Level {
  width: number;
  height: number;
  luma: Float32Array;
}
export type Pyramid = readonly Level[];

// Sums and products of floats, each rounded to one, as the kernels have them.
const f = Math.fround;

/** (a + 4b + 6c + 4d + e), of floats. */
const weighed = (a: number, b: number, c: number, d: number, e: number): number =>
  f(f(f(a + e) + 4 * f(b + d)) + f(6 * c));

/** Convolves with [1 4 6 4 1]/16 both ways and keeps every second sample (Burt & Adelson 1983). */
function halved(level: Level): Level {
  const own = kernels();
  return own ? halvedByKernel(own, level) : halvedBySamples(level);
}
/** The same in TypeScript: down a column first, in a row of its own. */
export function halvedBySamples({ width, height, luma }: Level): Level {
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
      row[x + 2] = weighed(luma[a + x]!, luma[b + x]!, luma[c + x]!, luma[d + x]!, luma[e + x]!);
    row[0] = row[1] = row[2]!;
    row[width + 2] = row[width + 3] = row[width + 1]!;
    const o = y * w;
    for (let x = 0, i = 0; x < w; x++, i += 2)
      out[o + x] = weighed(row[i]!, row[i + 1]!, row[i + 2]!, row[i + 3]!, row[i + 4]!) / 256;
  }
  return { width: w, height: h, luma: out };
}
function halvedByKernel(own: Kernels, { width, height, luma }: Level): Level {
  const [w, h] = [(width + 1) >> 1, (height + 1) >> 1];
  const out = new Float32Array(w * h);
  const rows = new RowsInTurn(own, luma, width, height, 5);
  for (let y = 0; y < h; y++) {
    rows.bring(2 * y + 2);
    const [a, b, c, d, e] = [-2, -1, 0, 1, 2].map((k) => rows.at(2 * y + k)) as [
      number,
      number,
      number,
      number,
      number,
    ];
    own.halveRow(width, a, b, c, d, e, rows.spare, rows.out);
    rows.take(out, y * w, w);
  }
  return { width: w, height: h, luma: out };
}

/** Convolves with [1 2 1]/4 both ways: takes the edge off noise and makes bilinear reading nearly exact. */
export function smoothed(luma: Float32Array, width: number, height: number): Float32Array {
  const own = kernels();
  return own ? smoothedByKernel(own, luma, width, height) : smoothedBySamples(luma, width, height);
}
export function smoothedBySamples(luma: Float32Array, width: number, height: number): Float32Array {
  const out = new Float32Array(luma.length);
  const row = new Float32Array(width + 2);
  for (let y = 0; y < height; y++) {
    const c = y * width;
    const up = y > 0 ? c - width : c;
    const down = y < height - 1 ? c + width : c;
    for (let x = 0; x < width; x++) row[x + 1] = f(luma[up + x]! + luma[down + x]!) + 2 * luma[c + x]!;
    row[0] = row[1]!;
    row[width + 1] = row[width]!;
    for (let x = 0; x < width; x++) out[c + x] = f(f(row[x]! + row[x + 2]!) + 2 * row[x + 1]!) / 16;
  }
  return out;
}
function smoothedByKernel(own: Kernels, luma: Float32Array, width: number, height: number): Float32Array {
  const out = new Float32Array(luma.length);
  const rows = new RowsInTurn(own, luma, width, height, 3);
  for (let y = 0; y < height; y++) {
    rows.bring(y + 1);
    own.smoothRow(width, rows.at(y - 1), rows.at(y), rows.at(y + 1), rows.spare, rows.out);
    rows.take(out, y * width, width);
  }
  return out;
}

/** The pyramid of a luma plane; its ground level is lightly smoothed. */
export function pyramidOf(luma: Float32Array, width: number, height: number, levels = 4): Pyramid {
  const out: Level[] = [{ width, height, luma: smoothed(luma, width, height) }];
  while (out.length < levels && Math.min(out.at(-1)!.width, out.at(-1)!.height) >= 32) out.push(halved(out.at(-1)!));
  return out;
}
