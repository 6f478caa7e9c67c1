import { expect, it } from 'vitest';
import { labFromLinear709, lchFromLab, linear709FromLab } from '../colour/lab.ts';
import { MEASURED_ALPHA, measurePiece, piecePixelsOf, thinned } from './measurePiece.ts';

/** Planes of colours given as Lab. */
function planesOf(labs: readonly (readonly [number, number, number])[]) {
  const rgb = labs.map(([L, a, b]) => linear709FromLab({ L, a, b }));
  const plane = (c: 0 | 1 | 2) => Float32Array.from(rgb, (v) => v[c]);
  return { r: plane(0), g: plane(1), b: plane(2) };
}
const none = () => false;
const all = (n: number) => new Float32Array(n).fill(1);

it('takes percentiles of lightness, chroma and hue each by itself, in whatever order the pixels come', () => {
  // eleven of each: the 10th, 50th and 90th per cent are the second, sixth and tenth
  const order = [7, 2, 9, 0, 4, 10, 1, 6, 3, 8, 5];
  const colours = order.map((k, i): [number, number, number] => {
    const [L, C, h] = [40 + 2 * k, 10 + order[(i + 3) % 11]!, 347 + 2 * order[(i + 5) % 11]!];
    const angle = (h * Math.PI) / 180;
    return [L, C * Math.cos(angle), C * Math.sin(angle)];
  });
  const { p10, median, p90 } = measurePiece(planesOf(colours), all(11), none)!;
  const rounded = ({ L, C, hDeg }: { L: number; C: number; hDeg: number }) => [L, C, hDeg].map((v) => +v.toFixed(2));
  expect([p10, median, p90].map(rounded)).toEqual([
    [42, 11, 349],
    [50, 15, 357],
    [58, 19, 5],
  ]);
});

it('has the covariance of L*, a* and b*, as it is defined', () => {
  const colours = [
    [40, 5, -3],
    [44, 9, 2],
    [52, 1, 7],
    [60, -5, 10],
  ] as [number, number, number][];
  const mean = [0, 1, 2].map((c) => colours.reduce((sum, v) => sum + v[c]!, 0) / 4);
  const cov = (p: number, q: number) =>
    colours.reduce((sum, v) => sum + (v[p]! - mean[p]!) * (v[q]! - mean[q]!), 0) / 4;
  const { covariance } = measurePiece(planesOf(colours), all(4), none)!;
  const wanted = [cov(0, 0), cov(0, 1), cov(0, 2), cov(1, 1), cov(1, 2), cov(2, 2)];
  const flat = [...covariance].flat();
  for (const v of wanted) expect(flat.some((got) => Math.abs(got - v) < 0.01)).toBe(true);
});

it('spreads what it takes of a large piece evenly over it', () => {
  // 6000 pixels, dark at the top, light at the bottom: the middle one is the median, whatever is left out
  const n = 6000;
  const planes = planesOf(Array.from({ length: n }, (_, i) => [20 + (60 * i) / n, 0, 0] as const));
  const { pixels, p10, median, p90 } = measurePiece(planes, all(n), none)!;
  expect(pixels).toBe(n);
  [p10.L - 26, median.L - 50, p90.L - 74].forEach((off) => expect(Math.abs(off)).toBeLessThan(0.1));
});

it('is of the mean in light, and of nothing where nothing is selected or all is clipped', () => {
  const planes = { r: Float32Array.of(0.2, 0.4), g: Float32Array.of(0.1, 0.3), b: Float32Array.of(0, 0.2) };
  const found = measurePiece(planes, all(2), none)!;
  found.meanLinear.forEach((v, c) => expect(v).toBeCloseTo([0.3, 0.2, 0.1][c]!, 6));
  expect(lchFromLab(found.lab).hDeg).toBeCloseTo(lchFromLab(labFromLinear709([0.3, 0.2, 0.1])).hDeg, 3);
  expect(measurePiece(planes, new Float32Array(2).fill(MEASURED_ALPHA - 0.01), none)).toBeUndefined();
  expect(measurePiece(planes, all(2), () => true)).toBeUndefined();
});

it('has the colour of the body besides: the mean without the sheen that is on it, by the same weights', () => {
  const planes = {
    r: Float32Array.of(0.3, 0.5, 0.9),
    g: Float32Array.of(0.4, 0.6, 0.9),
    b: Float32Array.of(0.5, 0.7, 0.9),
  };
  const light = [1.2, 1, 0.6] as const;
  const sheen = { luminance: Float32Array.of(0.1, 0.2, 5), light, kept: 0.5 };
  const { body, meanLinear } = measurePiece(planes, Float32Array.of(0.95, 1, 0.5), none, sheen)!;
  const mean = (0.95 * 0.1 + 0.2) / 1.95;
  body!.forEach((v, c) => expect(v).toBeCloseTo(meanLinear[c]! - 0.5 * mean * light[c]!, 6));
  expect(measurePiece(planes, all(3), none)).not.toHaveProperty('body');
});

it('on the way takes pixels evenly spread, clipped ones as what they are, and all of a small piece', () => {
  const alpha = new Float32Array(10_000).map((_, i) => (i % 4 === 3 ? 0.5 : 1));
  const all = piecePixelsOf(alpha, (i) => i % 5 === 0);
  const some = thinned(all, 400);
  expect(some.solid.length).toBeGreaterThan(350);
  expect(some.solid.length).toBeLessThanOrEqual(400);
  expect(some.solid.every((i) => alpha[i]! >= MEASURED_ALPHA)).toBe(true);
  const gaps = [...some.solid].slice(1).map((i, k) => i - some.solid[k]!);
  expect(Math.max(...gaps) - Math.min(...gaps)).toBeLessThanOrEqual(2);
  expect([...some.unclipped]).toEqual([...some.solid].filter((i) => i % 5 !== 0));
  expect(thinned(all, 7500).solid).toBe(all.solid);
  // every second one is looked at, and each of these is clipped
  const clipped = piecePixelsOf(new Float32Array(100).fill(1), (i) => i % 2 === 0);
  expect(thinned(clipped, 50)).toEqual(clipped);
});
