// How far along the surface, and what of a picture is grain.
import { expect, it } from 'vitest';
import { seededRandom } from '../track/random.ts';
import { alongSurface } from './alongSurface.ts';
import { geodesicDistances } from './geodesic.ts';
import { grainOf } from './grain.ts';
import { patchOfEach, preparedPicture } from './preparedPicture.ts';

const [W, H] = [40, 30];
const random = seededRandom(9);
/** Normal, by the sum of twelve (common practice): mean 0, standard deviation 1. */
const normal = () => Array.from({ length: 12 }, random).reduce((sum, r) => sum + r, -6);
const plane = (of: (x: number) => number, width = W, height = H) =>
  Float32Array.from({ length: width * height }, (_, i) => of(i % width));

it('is the shortest way of all, as another search finds it, and ends where that is too long', () => {
  const blobs = (x: number) => 0.5 + 0.01 * normal() + (x > 18 ? 0.03 : 0);
  const picture = preparedPicture({ L: plane(blobs), a: plane(() => 0), b: plane(() => 0) }, W, H);
  const marks = new Int8Array(W * H);
  for (const i of [0, 5 * W + 7, 20 * W + 3]) marks[i] = 1;
  marks[H * W - 1] = -1;
  const [grain, most] = [0.004, 0.06];
  const found = alongSurface(picture, marks, 1, grain, most);

  const { L } = picture.fine.oklab;
  const patch = patchOfEach(picture);
  const between = ({ L: l, a, b }: typeof picture.patches, p: number, q: number) =>
    Math.hypot(l[p]! - l[q]!, a[p]! - a[q]!, b[p]! - b[q]!);
  const [pairs, cost]: [number[], number[]] = [[], []];
  for (let i = 0; i < W * H; i++)
    for (const [dx, dy] of [
      [1, 0],
      [0, 1],
      [1, 1],
      [-1, 1],
    ] as const) {
      const [x, y] = [(i % W) + dx, Math.floor(i / W) + dy];
      if (x < 0 || x >= W || y >= H) continue;
      const j = y * W + x;
      const over = Math.max(Math.abs(L[i]! - L[j]!) - grain, 0);
      pairs.push(i, j);
      cost.push(0.0002 * Math.hypot(dx, dy) + over + between(picture.patches, patch[i]!, patch[j]!));
    }
  const seeds = [...marks.keys()].filter((i) => marks[i] === 1);
  const expected = geodesicDistances(W * H, Int32Array.from(pairs), Float64Array.from(cost), seeds);
  expect([...expected].some((d) => d > most) && [...expected].some((d) => d > 0.01 && d < most)).toBe(true);
  found.forEach((d, i) => {
    // what lies at the very end may fall to either side
    if (Math.abs(expected[i]! - most) < 1e-5) return;
    if (expected[i]! > most) expect(d).toBe(Infinity);
    else expect(d).toBeCloseTo(expected[i]!, 5);
  });
});

it('is grain what there is of it where a picture is even, however much else there is to see', () => {
  const [width, height, sigma] = [160, 96, 0.004];
  const noisy = (of: (x: number) => number) => plane((x) => of(x) + sigma * normal(), width, height);
  const grain = grainOf({
    ...{ width, height },
    // stripes over all but the left third
    oklab: { L: noisy((x) => (x > 50 && x % 4 < 2 ? 0.6 : 0.5)), a: noisy(() => 0.1), b: noisy(() => 0) },
  });
  // the mean of the Maxwell distribution, of a difference in three channels: 2 s √(2 ⁄ π), s = σ √2
  const expected = 4 * sigma * Math.sqrt(1 / Math.PI);
  expect(Math.abs(grain / expected - 1)).toBeLessThan(0.1);
});
it('has no grain where nothing differs', () => {
  const flat = plane(() => 1);
  expect(grainOf({ width: W, height: H, oklab: { L: flat, a: flat, b: flat } })).toBe(0);
});
