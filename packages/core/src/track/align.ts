import { bilinear } from '../matte/bilinear.ts';
import { composedInverse } from './motionModel.ts';
import type { Homography } from './homography.ts';
import type { MotionModel } from './motionModel.ts';
import { solveInPlace } from './linear.ts';
import type { Pyramid } from './pyramid.ts';
import { GRID, type Samples, type Template } from './template.ts';

const BLOCKS = GRID * GRID;
/** How much residuals that go together overstate what the picture says, against what motions usually do. */
const STIFFNESS = 4;
/**
 * Tukey's biweight gives up on residuals past this many standard deviations (95 % efficiency; Huber & Ronchetti, 2009).
 */
const TUKEY = 4.685;
/**
 * Where nothing covers the region, residuals are only blur and light: giving up on the steep side of a blurred edge
 * would pull the fit along it.
 */
const TUKEY_UNCOVERED = 10;

export interface Aligned {
  motion: Homography;
  gain: number;
  bias: number;
  /** Robust standard deviation of what is left, luma. */
  sigma: number;
  /**
   * The normal matrix of the last round, weights included: its inverse × sigma² is the covariance of the parameters.
   */
  normal: Float64Array;
}

/** Reads a level bilinearly at full-resolution places; −1 where it is off the picture. */
function readAt({ width, height, luma }: Pyramid[number], scale: number, u: number, v: number): number {
  const [x, y] = [u * scale - 0.5, v * scale - 0.5];
  if (!(x >= 0 && y >= 0 && x < width - 1 && y < height - 1)) return -1;
  return bilinear(luma, width, x, y);
}

/** What the current frame shows where each sample should lie; −1 off the picture. */
export function readSamples(out: Float32Array, samples: Samples, to: Pyramid, h: Homography): void {
  const level = to[samples.level]!;
  const scale = 1 / (1 << samples.level);
  const { x, y, count } = samples;
  for (let i = 0; i < count; i++) {
    const [px, py] = [x[i]!, y[i]!];
    const w = h[6] * px + h[7] * py + h[8];
    out[i] = readAt(level, scale, (h[0] * px + h[1] * py + h[2]) / w, (h[3] * px + h[4] * py + h[5]) / w);
  }
}

/**
 * Normalised cross-correlation of template and frame per block; NaN where fewer than `least` samples lie on the
 * picture.
 */
export function blockCorrelation(
  samples: Samples,
  read: Float32Array,
  least = 10,
): { ncc: Float64Array; gain: Float64Array } {
  const [n, st, si, stt, sii, sti] = Array.from({ length: 6 }, () => new Float64Array(BLOCKS)) as [
    Float64Array,
    Float64Array,
    Float64Array,
    Float64Array,
    Float64Array,
    Float64Array,
  ];
  for (let i = 0; i < samples.count; i++) {
    const r = read[i]!;
    if (r < 0) continue;
    const [b, t] = [samples.block[i]!, samples.luma[i]!];
    n[b] = n[b]! + 1;
    st[b] = st[b]! + t;
    si[b] = si[b]! + r;
    stt[b] = stt[b]! + t * t;
    sii[b] = sii[b]! + r * r;
    sti[b] = sti[b]! + t * r;
  }
  const [ncc, gain] = [new Float64Array(BLOCKS), new Float64Array(BLOCKS)];
  for (let b = 0; b < BLOCKS; b++) {
    if (n[b]! < least) {
      ncc[b] = gain[b] = NaN;
      continue;
    }
    const covariance = sti[b]! / n[b]! - (st[b]! / n[b]!) * (si[b]! / n[b]!);
    const [vt, vi] = [
      Math.max(stt[b]! / n[b]! - (st[b]! / n[b]!) ** 2, 1e-12),
      Math.max(sii[b]! / n[b]! - (si[b]! / n[b]!) ** 2, 1e-12),
    ];
    ncc[b] = Math.min(Math.max(covariance / Math.sqrt(vt * vi), -1), 1);
    gain[b] = Math.sqrt(vi / vt);
  }
  return { ncc, gain };
}

const scratch = new Float32Array(GRID * GRID * 256);
function median(values: Float32Array, n: number): number {
  if (n === 0) return 0;
  const sorted = values.subarray(0, n).sort();
  return sorted[n >> 1]!;
}

const known = new WeakMap<Samples, { model: MotionModel; columns: Float32Array[] }>();
/**
 * Steepest descent images, one a parameter, then what gain and bias act on. The template does not change: they are made
 * once.
 */
function columnsOf(model: MotionModel, samples: Samples): Float32Array[] {
  const made = known.get(samples);
  if (made?.model === model) return made.columns;
  const { count, x, y, luma, gx, gy } = samples;
  const perLevel = 1 / (1 << samples.level);
  const columns = Array.from({ length: model.size + 2 }, () => new Float32Array(count));
  const flow = new Float64Array(2 * model.size);
  for (let i = 0; i < count; i++) {
    model.flowInto(flow, x[i]!, y[i]!);
    for (let k = 0; k < model.size; k++)
      columns[k]![i] = (gx[i]! * flow[2 * k]! + gy[i]! * flow[2 * k + 1]!) * perLevel;
  }
  columns[model.size]!.set(luma);
  columns[model.size + 1]!.fill(1);
  known.set(samples, { model, columns });
  return columns;
}

/**
 * aᵢⱼ = Σ w·cᵢ·cⱼ and bᵢ = Σ w·cᵢ·r over the samples. Two columns by two at a time: their sums stay in registers, which
 * is twice as fast as going through the matrix for every sample.
 */
function normalEquationsInto(
  a: Float64Array,
  b: Float64Array,
  columns: readonly Float32Array[],
  w: Float32Array,
  r: Float32Array,
): void {
  const n = columns.length;
  for (let i = 0; i < n; i += 2) {
    const [c0, c1] = [columns[i]!, columns[Math.min(i + 1, n - 1)]!];
    let [b0, b1] = [0, 0];
    for (let s = 0; s < w.length; s++) {
      const wr = w[s]! * r[s]!;
      b0 += wr * c0[s]!;
      b1 += wr * c1[s]!;
    }
    b[i] = b0;
    if (i + 1 < n) b[i + 1] = b1;
    for (let j = 0; j <= i; j += 2) {
      const [d0, d1] = [columns[j]!, columns[Math.min(j + 1, n - 1)]!];
      let [s00, s01, s10, s11] = [0, 0, 0, 0];
      for (let s = 0; s < w.length; s++) {
        const wc0 = w[s]! * c0[s]!;
        const wc1 = w[s]! * c1[s]!;
        s00 += wc0 * d0[s]!;
        s01 += wc0 * d1[s]!;
        s10 += wc1 * d0[s]!;
        s11 += wc1 * d1[s]!;
      }
      a[i * n + j] = a[j * n + i] = s00;
      if (j + 1 < n) a[i * n + j + 1] = a[(j + 1) * n + i] = s01;
      if (i + 1 < n) a[(i + 1) * n + j] = a[j * n + i + 1] = s10;
      if (i + 1 < n && j + 1 < n) a[(i + 1) * n + j + 1] = a[(j + 1) * n + i + 1] = s11;
    }
  }
}

/**
 * Lays the template over a frame: inverse compositional Gauss–Newton (Baker & Matthews 2004) on the samples of one
 * level, with robust weights, a weight per block, and gain and bias solved along. Starts at `start`; `carried` is the
 * standard deviation the residuals had on earlier frames, which bounds what counts as agreeing. `held[i]` is 1 for a
 * sample that must not be looked at; `uncovered` says that nothing lies over the region.
 */
export function align(
  model: MotionModel,
  samples: Samples,
  to: Pyramid,
  start: Homography,
  blockWeight: Float64Array,
  carried: number,
  rounds: number,
  gain0 = 1,
  bias0 = 0,
  { held, uncovered = false }: { held?: Uint8Array | undefined; uncovered?: boolean } = {},
): Aligned | undefined {
  const n = model.size + 2;
  const { count, luma, block } = samples;
  const columns = columnsOf(model, samples);
  const weight = new Float32Array(count);
  const read = new Float32Array(count);
  let h = start;
  let [gain, bias, sigma] = [gain0, bias0, carried];
  const gone = new Float64Array(model.size);
  const a = new Float64Array(n * n);
  const b = new Float64Array(n);
  let normal = new Float64Array(n * n);
  for (let round = 0; round < rounds; round++) {
    readSamples(read, samples, to, h);
    if (held) for (let i = 0; i < count; i++) if (held[i]) read[i] = -1;
    let seen = 0;
    const every = Math.max(Math.floor(count / 2000), 1);
    for (let i = 0; i < count; i += every)
      if (read[i]! >= 0 && blockWeight[block[i]!]! > 0.5) scratch[seen++] = Math.abs(read[i]! - gain * luma[i]! - bias);
    if (seen < 3 * n) return undefined;
    // median of absolute residuals → standard deviation; wide at first, then near what earlier frames had
    const spread = median(scratch, seen) * 1.4826;
    sigma = Math.max(Math.min(spread, carried * (round < 2 ? 4 : 2)), carried * 0.5);
    const limit = (uncovered ? TUKEY_UNCOVERED : TUKEY) * sigma;
    let weightSum = 0;
    for (let i = 0; i < count; i++) {
      const r = read[i]!;
      const e = (r - gain * luma[i]! - bias) / limit;
      weight[i] = r < 0 || e >= 1 || e <= -1 ? 0 : blockWeight[block[i]!]! * (1 - e * e) ** 2;
      weightSum += weight[i]!;
    }
    if (weightSum < 2 * n) return undefined;
    normalEquationsInto(a, b, columns, weight, read);
    normal = a.slice();
    for (let k = 0; k < model.size; k++) {
      const stiff = model.usualChange[k]! === Infinity ? 0 : (STIFFNESS * sigma) ** 2 / model.usualChange[k]! ** 2;
      a[k * n + k] = a[k * n + k]! + stiff;
      b[k] = b[k]! - stiff * gone[k]! * gain;
    }
    for (let c = 0; c < n; c++) a[c * n + c] = a[c * n + c]! * (1 + 1e-9) + 1e-12;
    if (!solveInPlace(a, b, n)) return undefined;
    const g = b[n - 2]!;
    if (!(g > 0.2 && g < 5)) return undefined;
    const step = new Float64Array(model.size);
    let largest = 0;
    for (let k = 0; k < model.size; k++) {
      step[k] = b[k]! / g;
      gone[k] = gone[k]! + step[k]!;
      largest = Math.max(largest, Math.abs(step[k]!));
    }
    if (!(largest < 0.5)) return undefined;
    [gain, bias] = [g, b[n - 1]!];
    h = composedInverse(h, model.step(step));
    if (round >= 2 && largest * model.half < 0.004) break;
  }
  return { motion: h, gain, bias, sigma, normal };
}

/** How well a motion explains the frame: the texture's share-weighted correlation over blocks on the picture, 0..1. */
export function agreement(template: Template, samples: Samples, to: Pyramid, h: Homography): number {
  const read = new Float32Array(samples.count);
  readSamples(read, samples, to, h);
  const { ncc } = blockCorrelation(samples, read);
  let sum = 0;
  for (let b = 0; b < BLOCKS; b++) if (ncc[b]! > 0) sum += template.share[b]! * ncc[b]!;
  return sum;
}
