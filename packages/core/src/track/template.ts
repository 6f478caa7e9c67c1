import type { Pyramid } from './pyramid.ts';

/** Blocks the region is divided into, each way: what is covered is judged block by block. */
export const GRID = 10;
const PER_BLOCK = [90, 40] as const;

/** Samples of the reference frame that later frames are laid over, at one pyramid level. */
export interface Samples {
  level: number;
  count: number;
  /** Place in full-resolution pixels of the reference frame, and luma and its gradient per level pixel. */
  x: Float64Array;
  y: Float64Array;
  luma: Float32Array;
  gx: Float32Array;
  gy: Float32Array;
  /** Which block each sample belongs to; samples of a block follow one another. */
  block: Uint8Array;
}

/** The look of a region on its reference frame. */
export interface Template {
  /** Fine (ground level) and coarse (half size). */
  fine: Samples;
  coarse: Samples;
  /** Variance of luma within each block, over its fine samples. */
  variance: Float64Array;
  /** Share of the region's texture in each block, sum 1; 0 where a block is empty. */
  share: Float64Array;
  /** Share of the squared gradients that is texture and not noise. */
  trueShare: number;
  /** Standard deviation of the frame's noise at the ground level, as the flattest samples show it. */
  noise: number;
}

interface Box {
  x0: number;
  y0: number;
  x1: number;
  y1: number;
}

function samplesAt(pyramid: Pyramid, level: number, box: Box, allowed: (x: number, y: number) => boolean): Samples {
  const { width, height, luma } = pyramid[level]!;
  const s = 1 << level;
  const [bw, bh] = [(box.x1 - box.x0) / GRID, (box.y1 - box.y0) / GRID];
  const most = PER_BLOCK[level === 0 ? 0 : 1];
  const kept: number[] = [];
  const block: number[] = [];
  const [places, squares]: [number[], number[]] = [[], []];
  for (let by = 0; by < GRID; by++)
    for (let bx = 0; bx < GRID; bx++) {
      const [x0, x1] = [
        Math.max(Math.ceil((box.x0 + bx * bw) / s - 0.5), 2),
        Math.min(Math.ceil((box.x0 + (bx + 1) * bw) / s - 0.5), width - 2),
      ];
      const [y0, y1] = [
        Math.max(Math.ceil((box.y0 + by * bh) / s - 0.5), 2),
        Math.min(Math.ceil((box.y0 + (by + 1) * bh) / s - 0.5), height - 2),
      ];
      places.length = squares.length = 0;
      // large blocks are looked at in steps: several times as many places as are kept
      const stride = Math.max(Math.floor(Math.sqrt(((x1 - x0) * (y1 - y0)) / (most * 5))), 1);
      for (let y = y0; y < y1; y += stride)
        for (let x = x0; x < x1; x += stride) {
          if (!allowed((x + 0.5) * s, (y + 0.5) * s)) continue;
          const i = y * width + x;
          places.push(i);
          squares.push((luma[i + 1]! - luma[i - 1]!) ** 2 + (luma[i + width]! - luma[i - width]!) ** 2);
        }
      // the steepest half fixes the place; the rest, evenly spread, tells whether flat parts are still themselves
      const steep = Math.min(Math.ceil(most * 0.6), places.length);
      const limit = steep === 0 ? 0 : Float64Array.from(squares).sort()[squares.length - steep]!;
      const before = kept.length;
      const rest: number[] = [];
      // of several just as steep as the limit the first are taken
      let equal = steep - squares.reduce((n, g) => n + (g > limit ? 1 : 0), 0);
      const steepest: number[] = [];
      for (let k = 0; k < places.length; k++) {
        if (squares[k]! > limit || (squares[k] === limit && equal-- > 0)) steepest.push(k);
        else rest.push(places[k]!);
      }
      steepest.sort((p, q) => squares[q]! - squares[p]!);
      for (const k of steepest) kept.push(places[k]!);
      const step = Math.max(rest.length / (most * 0.4), 1);
      for (let k = 0; k < rest.length; k += step) kept.push(rest[Math.floor(k)]!);
      for (let k = before; k < kept.length; k++) block.push(by * GRID + bx);
    }
  const count = kept.length;
  const out: Samples = {
    level,
    count,
    x: new Float64Array(count),
    y: new Float64Array(count),
    luma: new Float32Array(count),
    gx: new Float32Array(count),
    gy: new Float32Array(count),
    block: Uint8Array.from(block),
  };
  for (let k = 0; k < count; k++) {
    const i = kept[k]!;
    out.x[k] = ((i % width) + 0.5) * s;
    out.y[k] = (Math.floor(i / width) + 0.5) * s;
    out.luma[k] = luma[i]!;
    out.gx[k] = (luma[i + 1]! - luma[i - 1]!) / 2;
    out.gy[k] = (luma[i + width]! - luma[i - width]!) / 2;
  }
  return out;
}

/**
 * Standard deviation of noise in a smoothed luma plane over a box, from the second differences that texture hardly
 * reaches: the 30th percentile of |I(x−2) − 2·I(x) + I(x+2)|, scaled for a normal distribution.
 */
function noiseOf({ width, height, luma }: Pyramid[number], box: Box): number {
  const found: number[] = [];
  const [x0, x1] = [Math.max(Math.floor(box.x0), 2), Math.min(Math.ceil(box.x1), width - 2)];
  const [y0, y1] = [Math.max(Math.floor(box.y0), 0), Math.min(Math.ceil(box.y1), height)];
  const stride = Math.max(Math.floor(Math.sqrt(((x1 - x0) * (y1 - y0)) / 6000)), 1);
  for (let y = y0; y < y1; y += stride)
    for (let x = x0; x < x1; x += stride) {
      const i = y * width + x;
      found.push(Math.abs(luma[i - 2]! - 2 * luma[i]! + luma[i + 2]!));
    }
  if (found.length === 0) return 0;
  const values = Float64Array.from(found).sort();
  // P(|z| < 0.385) = 0.3; after the [1 2 1]/4 blur this difference has 4.67 times the blurred noise's variance (6·R₀ −
  // 8·R₂, R₀ = 6/16, R₂ = 1/16)
  return values[Math.floor(values.length * 0.3)]! / 0.385 / Math.sqrt(4.67);
}

export function templateOf(pyramid: Pyramid, box: Box, allowed: (x: number, y: number) => boolean): Template {
  const fine = samplesAt(pyramid, 0, box, allowed);
  const coarse = samplesAt(pyramid, Math.min(1, pyramid.length - 1), box, allowed);
  const n = GRID * GRID;
  const [sum, square, count, steep] = [
    new Float64Array(n),
    new Float64Array(n),
    new Float64Array(n),
    new Float64Array(n),
  ];
  for (let i = 0; i < fine.count; i++) {
    const b = fine.block[i]!;
    sum[b] = sum[b]! + fine.luma[i]!;
    square[b] = square[b]! + fine.luma[i]! ** 2;
    steep[b] = steep[b]! + fine.gx[i]! ** 2 + fine.gy[i]! ** 2;
    count[b] = count[b]! + 1;
  }
  const variance = Float64Array.from(sum, (s, b) =>
    count[b]! > 0 ? Math.max(square[b]! / count[b]! - (s / count[b]!) ** 2, 0) : 0,
  );
  const noise = Math.max(noiseOf(pyramid[0]!, box), 0.4 / 255);
  // what noise alone adds to the squared gradient: (R₀ − R₂)/2 of the blurred noise's variance along each axis
  const noiseSteep = (5 / 6) * noise ** 2;
  const isTextured = (b: number) =>
    count[b]! >= 12 && variance[b]! > 2 * noise ** 2 && steep[b]! / count[b]! > 2 * noiseSteep;
  // texture counts by its square root, so that one strong edge does not outweigh the rest of the region
  const weight = Float64Array.from(steep, (s, b) =>
    isTextured(b) ? Math.sqrt(s / count[b]! - noiseSteep) * Math.min(count[b]! / PER_BLOCK[0], 1) : 0,
  );
  const total = weight.reduce((a, b) => a + b, 0) || 1;
  let [own, all] = [0, 0];
  for (let b = 0; b < n; b++)
    if (weight[b]! > 0) {
      own += steep[b]! - noiseSteep * count[b]!;
      all += steep[b]!;
    }
  return { fine, coarse, variance, share: weight.map((w) => w / total), noise, trueShare: all === 0 ? 0 : own / all };
}
