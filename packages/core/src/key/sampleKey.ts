import type { Ellipsoid, SampleKey } from '../document/key.ts';
import { inverse, type Matrix3 } from '../colour/matrix3.ts';
import type { Oklab } from '../colour/oklab.ts';
import type { OklabPlanes } from '../colour/oklabPlanes.ts';
import type { KeyKindEntry } from './kind.ts';
import type { PickedColours } from './solveWindows.ts';
import { smoothstep } from './window.ts';

export const SAMPLE_KEY_START = { tolerance: 2.5, softness: 1.5 } as const;

/** Half axes never get shorter than this (OKLab): about one just noticeable step, and more along lightness. */
const FLOOR = { L: 0.04, a: 0.012, b: 0.012 } as const;

/** The ellipsoid of some samples: mean, covariance, and a floor on its axes. Throws RangeError without samples. */
export function ellipsoidOf(samples: readonly Oklab[]): Ellipsoid {
  if (samples.length === 0) throw new RangeError('an ellipsoid needs at least one sample');
  const n = samples.length;
  const mean = { L: 0, a: 0, b: 0 };
  for (const s of samples) {
    mean.L += s.L / n;
    mean.a += s.a / n;
    mean.b += s.b / n;
  }
  const cov = (p: keyof Oklab, q: keyof Oklab) =>
    samples.reduce((sum, s) => sum + (s[p] - mean[p]) * (s[q] - mean[q]), 0) / n;
  const [la, lb, ab] = [cov('L', 'a'), cov('L', 'b'), cov('a', 'b')];
  const covariance: Matrix3 = [
    cov('L', 'L') + FLOOR.L ** 2,
    la,
    lb,
    la,
    cov('a', 'a') + FLOOR.a ** 2,
    ab,
    lb,
    ab,
    cov('b', 'b') + FLOOR.b ** 2,
  ];
  // the floor keeps it regular: every eigenvalue is at least the smallest floor squared
  return { mean: [mean.L, mean.a, mean.b], precision: scaledInverse(covariance) };
}

/** Inverse of a covariance of small numbers, scaled so that the determinant test of `inverse` is meaningful. */
function scaledInverse(m: Matrix3): Ellipsoid['precision'] {
  const k = 1 / Math.max(m[0], m[4], m[8]);
  return inverse(m.map((v) => v * k) as unknown as Matrix3).map((v) => v * k) as Ellipsoid['precision'];
}

/** Squared Mahalanobis distance of (L, a, b). */
function squaredDistance({ mean, precision: p }: Ellipsoid, L: number, a: number, b: number): number {
  const x = L - mean[0];
  const y = a - mean[1];
  const z = b - mean[2];
  return p[0] * x * x + p[4] * y * y + p[8] * z * z + 2 * (p[1] * x * y + p[2] * x * z + p[5] * y * z);
}

function nearest(clouds: readonly Ellipsoid[], L: number, a: number, b: number): number {
  let best = Infinity;
  for (const cloud of clouds) best = Math.min(best, squaredDistance(cloud, L, a, b));
  return Math.sqrt(Math.max(best, 0));
}

/** Where, between the clouds (0 = at the unwanted one, 1 = at the wanted one), the push back sets in and ends. */
const PUSH = { from: 0.4, to: 0.6 } as const;

/** α of one colour, 0..1. */
export function sampleKeyAt(key: SampleKey, { L, a, b }: Oklab): number {
  const wanted = nearest(key.positive, L, a, b);
  const past = wanted - key.tolerance;
  if (past >= key.softness && past > 0) return 0;
  const alpha = past <= 0 ? 1 : smoothstep(1 - past / key.softness);
  if (key.negative.length === 0 || alpha === 0) return alpha;
  const unwanted = nearest(key.negative, L, a, b);
  const share = unwanted + wanted === 0 ? 0.5 : unwanted / (unwanted + wanted);
  return alpha * smoothstep((share - PUSH.from) / (PUSH.to - PUSH.from));
}

/** `sampleKeyAt` over a picture. */
export function sampleKeyInto(out: Float32Array, { L, a, b }: OklabPlanes, key: SampleKey): void {
  const colour = { L: 0, a: 0, b: 0 };
  // a box round all wanted ellipsoids: what lies outside costs six comparisons
  const reach = key.tolerance + key.softness;
  const lo = [Infinity, Infinity, Infinity];
  const hi = [-Infinity, -Infinity, -Infinity];
  for (const { mean, precision } of key.positive) {
    const covariance = scaledInverse(precision);
    for (const [axis, variance] of [covariance[0], covariance[4], covariance[8]].entries()) {
      const half = reach * Math.sqrt(variance) + 1e-6;
      lo[axis] = Math.min(lo[axis]!, mean[axis]! - half);
      hi[axis] = Math.max(hi[axis]!, mean[axis]! + half);
    }
  }
  const [lo0, lo1, lo2] = lo as [number, number, number];
  const [hi0, hi1, hi2] = hi as [number, number, number];
  for (let i = 0; i < out.length; i++) {
    const x = L[i]!;
    const y = a[i]!;
    const z = b[i]!;
    out[i] = 0;
    if (x < lo0 || x > hi0 || y < lo1 || y > hi1 || z < lo2 || z > hi2) continue;
    colour.L = x;
    colour.a = y;
    colour.b = z;
    out[i] = sampleKeyAt(key, colour);
  }
}

/** The key of a list of picks; undefined while there is no add pick. Tolerance and softness are kept from `before`. */
export function sampleKeyFromPicks(
  picks: readonly PickedColours[],
  before: Pick<SampleKey, 'tolerance' | 'softness'> = SAMPLE_KEY_START,
): SampleKey | undefined {
  const clouds = (sign: PickedColours['sign']) =>
    picks.filter((p) => p.sign === sign).map((p) => ellipsoidOf(p.samples));
  const positive = clouds('add');
  return positive.length === 0
    ? undefined
    : { positive, negative: clouds('remove'), tolerance: before.tolerance, softness: before.softness };
}

/** The kind's place in the table of keys. */
export const sampleKey: KeyKindEntry<'sample'> = {
  label: 'Sample key',
  into: (out, picture, key) => sampleKeyInto(out, picture.oklab(), key),
  withPick: (key, pick, earlier) => sampleKeyFromPicks([...earlier, pick], key ?? undefined) ?? null,
  kept: (before) => before,
  windows: () => [],
};
