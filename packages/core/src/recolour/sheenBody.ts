import { planckianSlope } from '../colour/planckian.ts';
import type { LinearPlanes } from '../colour/planes.ts';
import type { Triple } from '../colour/matrix3.ts';
import { luminanceOf } from '../colour/xyz.ts';
import type { SheenBody } from '../document/recipe.ts';
import { boxMean } from '../matte/boxMean.ts';
import { median } from '../measure/median.ts';
import { invariantOf, signedSheen, type Way } from './sheen.ts';

/** α from which a pixel is the piece alone. */
const SOLID = 0.98;
/** How strongly sheen moves the invariant: under the first it is not seen, from the second on it is trusted. */
const [UNSEEN, TRUSTED] = [0.4, 0.8];
/**
 * Where sheen alone changes a piece's chromaticity its log chromaticities lie along one line; several lights, or a
 * camera's shoulder, spread them aside. Under the first correlation the split is not believed, from the second on it is
 * (chosen on the demo's stills, see docs/accuracy.md).
 */
const [SPREAD, ALONG_A_LINE] = [0.8, 0.9];
/**
 * Where the sheen's share of the luminance varies by less than the first (standard deviation) there is nothing to tell
 * apart: what lies along the line then is grain, or the weave.
 */
const [EVEN, VARIES] = [0.02, 0.03];
const BINS = 10;
const MOST_SAMPLES = 4000;

/**
 * What tells sheen from body in a piece, found from `sheenSamples` of it (better of several frames than of one): the
 * invariant of its body, along which way sheen moves a pixel from it, and how surely. `light`: linear BT.709 of a white
 * under the piece's light. Undefined where there is too little of the piece to tell.
 */
export function findSheenBody(given: readonly Triple[], light: Triple = [1, 1, 1]): SheenBody | undefined {
  const e = unitLight(light);
  const slope = planckianSlope(e);
  const step = Math.max(given.length / MOST_SAMPLES, 1);
  const samples = Array.from({ length: Math.floor(given.length / step) }, (_, k) => given[Math.floor(k * step)]!);
  if (samples.length < 100) return undefined;
  const mean = [0, 1, 2].map((c) => samples.reduce((s, x) => s + x[c]!, 0) / samples.length) as unknown as Triple;
  const Y = luminanceOf(mean);
  if (!(Math.min(...mean) > 0)) return undefined;
  const moves = ((1 + slope) * e[1] * Y) / mean[1] - (slope * e[0] * Y) / mean[0] - (e[2] * Y) / mean[2];
  const ramp = (v: number, lo: number, hi: number) => Math.min(Math.max((v - lo) / (hi - lo), 0), 1);
  const line = lineOf(samples, slope, mean, e);
  const confidence =
    ramp(Math.abs(moves), UNSEEN, TRUSTED) *
    ramp(line.along, SPREAD, ALONG_A_LINE) *
    ramp(line.deviation / Math.abs(moves), EVEN, VARIES);
  const direction = moves < 0 ? -1 : 1;
  const body = { light: e, slope, direction, confidence } as const;
  return { ...body, invariant: bodyInvariant(samples, body) };
}

/**
 * How well the log chromaticities of a piece lie along the line that sheen moves them along: correlation of the
 * invariant and ln(R/B), no more than the share of its steepness that sheen of the mean colour would have; and the
 * invariant's standard deviation.
 */
function lineOf(
  samples: readonly Triple[],
  slope: number,
  mean: Triple,
  [er, eg, eb]: Triple,
): { along: number; deviation: number } {
  const n = samples.length;
  const own = samples.map(([r, g, b]) => [invariantOf(slope, r, g, b), Math.log(r / b)] as const);
  const m = [0, 1].map((k) => own.reduce((s, p) => s + p[k]!, 0) / n) as [number, number];
  const cov = (p: 0 | 1, q: 0 | 1) => own.reduce((s, v) => s + (v[p] - m[p]) * (v[q] - m[q]), 0) / n;
  const spread = Math.sqrt(cov(0, 0) * cov(1, 1));
  const deviation = Math.sqrt(cov(0, 0));
  if (spread < 1e-9) return { along: 0, deviation };
  const [r, g, b] = mean;
  const steepness = ((1 + slope) * (eg / g) - slope * (er / r) - eb / b) / (eb / b - er / r);
  const correlation = (Math.sign(steepness) * cov(0, 1)) / spread;
  return { along: Math.min(correlation, (2 * cov(0, 1)) / cov(1, 1) / steepness), deviation };
}

/** A light of luminance 1. */
function unitLight(light: Triple): [number, number, number] {
  const Y = luminanceOf(light);
  return [light[0] / Y, light[1] / Y, light[2] / Y];
}

/** Solid pixels of the piece, blurred within its matte so that grain does not speak, evenly spread. */
export function sheenSamples({ r, g, b }: LinearPlanes, alpha: Float32Array, width: number, height: number): Triple[] {
  const blurred = (plane: Float32Array) => {
    let out = plane;
    for (let pass = 0; pass < 3; pass++) out = boxMean(out, width, height, 2);
    return out;
  };
  const weight = blurred(alpha);
  const [R, G, B] = [r, g, b].map((plane) => blurred(plane.map((v, i) => v * alpha[i]!))) as [
    Float32Array,
    Float32Array,
    Float32Array,
  ];
  const solid: number[] = [];
  for (let i = 0; i < alpha.length; i++) if (alpha[i]! >= SOLID) solid.push(i);
  const step = Math.max(solid.length / MOST_SAMPLES, 1);
  const out: Triple[] = [];
  for (let k = 0; k < solid.length; k += step) {
    const i = solid[Math.floor(k)]!;
    const w = weight[i]!;
    const x: Triple = [R[i]! / w, G[i]! / w, B[i]! / w];
    if (Math.min(...x) > 1e-5) out.push(x);
  }
  return out;
}

/**
 * The invariant for which sheen does not grow with shading: the slope, of medians of s in bins of the body's luminance,
 * is nothing (P. K. Sen 1968, after H. Theil).
 */
function bodyInvariant(samples: readonly Triple[], way: Way): number {
  const own = samples.map((x) => invariantOf(way.slope, ...x)).sort((a, b) => a - b);
  const at = (share: number) => own[Math.floor(share * (own.length - 1))]!;
  let [lo, hi] = [at(0.01) - 0.6, at(0.99) + 0.6];
  for (let k = 0; k < 24; k++) {
    const trial = (lo + hi) / 2;
    const slope = sheenSlope(samples, way, trial);
    // a body further along the way leaves more to sheen everywhere, most where it is bright
    if (slope > 0 === way.direction > 0) hi = trial;
    else lo = trial;
  }
  return (lo + hi) / 2;
}
function sheenSlope(samples: readonly Triple[], way: Way, invariant: number): number {
  const found = samples.map((x) => {
    const s = signedSheen(x, way, invariant);
    return { s, Y: luminanceOf(x) - s };
  });
  found.sort((p, q) => p.Y - q.Y);
  const bins = Array.from({ length: BINS }, (_, k) => {
    const part = found.slice(Math.floor((k * found.length) / BINS), Math.floor(((k + 1) * found.length) / BINS));
    return { s: median(part.map((p) => p.s)), Y: median(part.map((p) => p.Y)) };
  });
  const slopes: number[] = [];
  for (let i = 0; i < BINS; i++)
    for (let j = i + 1; j < BINS; j++) {
      const dY = bins[j]!.Y - bins[i]!.Y;
      if (dY > 1e-6) slopes.push((bins[j]!.s - bins[i]!.s) / dY);
    }
  return slopes.length === 0 ? 0 : median(slopes);
}
