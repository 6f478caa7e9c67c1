// The parts that scribbles rest on: mixtures of colours, shortest ways, patches, sizes, the colour guided filter.
import { beforeAll, describe, expect, it } from 'vitest';
import { guidedFilterInPlace } from '../matte/guidedFilter.ts';
import { randomMatte, worst } from '../testing/mattes.ts';
import { seededRandom } from '../track/random.ts';
import { colourGuide } from './colourGuidedFilter.ts';
import { fitColourMixture, logDensity } from './colourMixture.ts';
import { geodesicDistances } from './geodesic.ts';
import { enlarged, shrunk } from './resized.ts';
import { superpixelsOf } from './superpixels.ts';
import { cv, cvReady } from '../testing/opencv.ts';

beforeAll(cvReady, 60_000);

/** Two values of the standard normal distribution (Box & Muller 1958). */
function normals(random: () => number): [number, number] {
  const [r, t] = [Math.sqrt(-2 * Math.log(1 - random())), 2 * Math.PI * random()];
  return [r * Math.cos(t), r * Math.sin(t)];
}

describe('colour mixture', () => {
  const cloud = (n: number, at: readonly number[], sigma: number, seed: number) => {
    const random = seededRandom(seed);
    return Array.from({ length: n }, () => at.map((m) => m + sigma * normals(random)[0])).flat();
  };
  it('is the normal density itself where all colours are of one cloud', () => {
    const sigma = 0.05;
    const mixture = fitColourMixture(Float64Array.from(cloud(4000, [0.6, 0.1, -0.05], sigma, 3)), 1);
    // the variance that every colour has at least is added to the cloud's own
    const v = sigma ** 2 + 0.012 ** 2;
    const light = sigma ** 2 + 0.04 ** 2;
    for (const [L, a, b] of [
      [0.6, 0.1, -0.05],
      [0.65, 0.12, 0],
      [0.5, 0, -0.1],
    ] as const) {
      const d2 = (L - 0.6) ** 2 / light + ((a - 0.1) ** 2 + (b + 0.05) ** 2) / v;
      expect(logDensity(mixture, L, a, b)).toBeCloseTo(
        -0.5 * (3 * Math.log(2 * Math.PI) + 2 * Math.log(v) + Math.log(light) + d2),
        0,
      );
    }
  });
  it('finds two clouds, and how many colours each has', () => {
    const mixture = fitColourMixture(
      Float64Array.from([...cloud(900, [0.7, 0.15, 0.1], 0.02, 1), ...cloud(300, [0.4, -0.1, 0], 0.02, 2)]),
      2,
    );
    const [large, small] = [...mixture.components].sort((p, q) => q.mean[0] - p.mean[0]);
    [0.7, 0.15, 0.1].forEach((m, i) => expect(large!.mean[i]).toBeCloseTo(m, 2));
    [0.4, -0.1, 0].forEach((m, i) => expect(small!.mean[i]).toBeCloseTo(m, 2));
    // the same spread: the ratio of the scales is that of the numbers
    expect(large!.logScale - small!.logScale).toBeCloseTo(Math.log(3), 1);
  });
  it('refuses to be made of nothing', () =>
    expect(() => fitColourMixture(new Float64Array(0))).toThrow('at least one colour'));
});

it('finds the shortest ways that Floyd’s and Warshall’s method finds, and none where none leads', () => {
  const random = seededRandom(8);
  const [n, m] = [40, 70];
  const pairs = Int32Array.from({ length: 2 * m }, () => Math.floor(random() * (n - 1)));
  const cost = Float64Array.from({ length: m }, () => random());
  const all = Array.from({ length: n }, (_, i) => Array.from({ length: n }, (_, j) => (i === j ? 0 : Infinity)));
  for (let e = 0; e < m; e++) {
    const [i, j] = [pairs[2 * e]!, pairs[2 * e + 1]!];
    if (i !== j) all[i]![j] = all[j]![i] = Math.min(all[i]![j]!, cost[e]!);
  }
  for (let k = 0; k < n; k++)
    for (let i = 0; i < n; i++)
      for (let j = 0; j < n; j++) all[i]![j] = Math.min(all[i]![j]!, all[i]![k]! + all[k]![j]!);
  const seeds = [3, 17];
  geodesicDistances(n, pairs, cost, seeds).forEach((d, i) => {
    const expected = Math.min(...seeds.map((s) => all[s]![i]!));
    if (expected === Infinity) expect(d).toBe(Infinity);
    else expect(d).toBeCloseTo(expected, 10);
  });
});

describe('sizes', () => {
  const [w, h] = [90, 60];
  const plane = randomMatte(w, h, 4);
  it.each([
    [45, 30],
    [40, 25],
    [90, 60],
  ])('makes a plane smaller as OpenCV does by area: to %i × %i', (tw, th) => {
    const out = new cv.Mat();
    const source = new cv.Mat(h, w, cv.CV_32F);
    source.data32F.set(plane);
    cv.resize(source, out, new cv.Size(tw, th), 0, 0, cv.INTER_AREA);
    expect(worst(shrunk(plane, w, h, tw, th), out.data32F)).toBeLessThan(1e-5);
  });
  it.each([
    [180, 120],
    [128, 77],
    [90, 77],
    [128, 60],
  ])('makes it larger as OpenCV does, bilinear: to %i × %i', (tw, th) => {
    const out = new cv.Mat();
    const source = new cv.Mat(h, w, cv.CV_32F);
    source.data32F.set(plane);
    cv.resize(source, out, new cv.Size(tw, th), 0, 0, cv.INTER_LINEAR);
    expect(worst(enlarged(plane, w, h, tw, th), out.data32F)).toBeLessThan(1e-5);
  });
});

it('a plane of the size asked for is given back as it is', () => {
  const plane = randomMatte(9, 6, 4);
  expect([enlarged(plane, 9, 6, 9, 6), shrunk(plane, 9, 6, 9, 6)].every((p) => p === plane)).toBe(true);
});

it('the colour guided filter is the grey one where the guide has no colour', () => {
  const [w, h] = [80, 60];
  const random = seededRandom(2);
  const L = Float32Array.from({ length: w * h }, (_, i) => (i % w > 40 ? 0.7 : 0.3) + 0.05 * random());
  const zero = new Float32Array(w * h);
  const plane = randomMatte(w, h, 7);
  const { aL, c } = colourGuide(plane, { L, a: zero, b: zero }, w, h, 4, 1e-3);
  const grey = plane.slice();
  guidedFilterInPlace(grey, L, w, h, 4, 1e-3);
  expect(
    worst(
      Float32Array.from(L, (v, i) => aL[i]! * v + c[i]!),
      grey,
    ),
  ).toBeLessThan(1e-4);
});

it('the colour guided filter gives back what is linear in the guide’s colour', () => {
  const [w, h] = [60, 50];
  const random = seededRandom(12);
  const guide = () => Float32Array.from({ length: w * h }, () => random());
  const [L, a, b] = [guide(), guide(), guide()];
  const plane = L.map((v, i) => 0.7 * v - 0.4 * a[i]! + 0.2 * b[i]! + 0.1);
  const { aL, aA, aB, c } = colourGuide(plane, { L, a, b }, w, h, 5, 1e-7);
  for (let i = 0; i < w * h; i += 37) {
    expect([aL[i], aA[i], aB[i]].map((v) => v!.toFixed(2))).toEqual(['0.70', '-0.40', '0.20']);
    expect(c[i]).toBeCloseTo(0.1, 2);
  }
});

describe('patches', () => {
  const [w, h] = [120, 80];
  const random = seededRandom(5);
  const isLeft = (i: number) => (i % w) + 0.4 * Math.floor(i / w) < 75;
  const noisy = (left: number, right: number) =>
    Float32Array.from({ length: w * h }, (_, i) => (isLeft(i) ? left : right) + 0.01 * (random() - 0.5));
  const planes = { L: noisy(0.6, 0.55), a: noisy(0.1, -0.1), b: noisy(0, 0.1) };
  const patches = superpixelsOf(planes, w, h);
  it('tile the picture, each of one piece and of about the area asked for', () => {
    expect(patches.area.reduce((s, v) => s + v, 0)).toBe(w * h);
    expect(Math.max(...patches.labels)).toBe(patches.count - 1);
    // a patch of one piece is walked through from any of its pixels
    const first = new Map<number, number>();
    patches.labels.forEach((k, i) => first.has(k) || first.set(k, i));
    const reached = new Uint8Array(w * h);
    for (const start of first.values()) {
      const stack = [start];
      while (stack.length > 0) {
        const i = stack.pop()!;
        if (reached[i] || patches.labels[i] !== patches.labels[start]) continue;
        reached[i] = 1;
        if (i % w > 0) stack.push(i - 1);
        if (i % w < w - 1) stack.push(i + 1);
        if (i >= w) stack.push(i - w);
        if (i + w < w * h) stack.push(i + w);
      }
    }
    expect(reached.includes(0)).toBe(false);
    expect((w * h) / patches.count).toBeGreaterThan(30);
    expect((w * h) / patches.count).toBeLessThan(80);
  });
  it('keep to one side of an edge', () => {
    const sides = Array.from({ length: patches.count }, () => [0, 0]);
    patches.labels.forEach((k, i) => sides[k]![isLeft(i) ? 0 : 1]!++);
    const astray = sides.reduce((s, [l, r]) => s + Math.min(l!, r!), 0);
    expect(astray / (w * h)).toBeLessThan(0.002);
  });
  it('know their area and mean colour', () => {
    for (const k of [0, 7, patches.count - 1]) {
      const own = Array.from(patches.labels.keys()).filter((i) => patches.labels[i] === k);
      expect(patches.area[k]).toBe(own.length);
      const mean = (of: Float32Array) => own.reduce((sum, i) => sum + of[i]!, 0) / own.length;
      expect(patches.L[k]).toBeCloseTo(mean(planes.L), 9);
      expect(patches.a[k]).toBeCloseTo(mean(planes.a), 9);
      expect(patches.b[k]).toBeCloseTo(mean(planes.b), 9);
    }
  });
  it('name each pair of neighbours once', () => {
    const names = Array.from(patches.border, (_, p) => `${patches.pairs[2 * p]} ${patches.pairs[2 * p + 1]}`);
    expect(new Set(names).size).toBe(names.length);
    patches.border.forEach((_, p) => expect(patches.pairs[2 * p]!).toBeLessThan(patches.pairs[2 * p + 1]!));
    const first = patches.labels[0]!;
    const sides = names
      .map((name, p) => [name, patches.border[p]] as const)
      .filter(([name]) => name.split(' ').includes(String(first)));
    let around = 0;
    patches.labels.forEach((k, i) => {
      if (k !== first) return;
      if (i % w < w - 1 && patches.labels[i + 1] !== first) around++;
      if (i % w > 0 && patches.labels[i - 1] !== first) around++;
      if (i + w < w * h && patches.labels[i + w] !== first) around++;
      if (i >= w && patches.labels[i - w] !== first) around++;
    });
    expect(sides.reduce((sum, [, n]) => sum + n!, 0)).toBe(around);
  });
  it('of a plain picture are squares of seven pixels', () => {
    const plain = new Float32Array(70 * 49).fill(0.5);
    const { labels, count, area } = superpixelsOf({ L: plain, a: plain, b: plain }, 70, 49);
    expect(count).toBe(70);
    expect([Math.min(...area) > 35, Math.max(...area) < 64]).toEqual([true, true]);
    expect(labels[0]).not.toBe(labels[9]);
  });
  it('know their neighbours and the border they share', () => {
    let across = 0;
    for (let i = 0; i < w * h; i++) {
      if (i % w < w - 1 && patches.labels[i] !== patches.labels[i + 1]) across++;
      if (i + w < w * h && patches.labels[i] !== patches.labels[i + w]) across++;
    }
    expect(patches.border.reduce((s, v) => s + v, 0)).toBe(across);
  });
});
