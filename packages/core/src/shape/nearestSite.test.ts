import { expect, it } from 'vitest';
import { seededRandom } from '../testing/mattes.ts';
import { maskDistanceInto, nearestSite } from './nearestSite.ts';

const random = seededRandom(3);
/** The least cost by trying every site: the definition itself. */
function tried(cost: Float64Array, width: number, height: number): number[] {
  return Array.from({ length: width * height }, (_, i) => {
    let least = Infinity;
    for (let j = 0; j < cost.length; j++) {
      const [dx, dy] = [(i % width) - (j % width), Math.floor(i / width) - Math.floor(j / width)];
      least = Math.min(least, dx * dx + dy * dy + cost[j]!);
    }
    return least;
  });
}

it.each([
  [17, 9, 0.1],
  [9, 17, 0.3],
  [12, 12, 1],
  [1, 20, 0.2],
  [20, 1, 0.2],
])('of a grid of %i × %i is the site of least distance² and cost', (width, height, share) => {
  for (let round = 0; round < 8; round++) {
    const cost = Float64Array.from({ length: width * height }, () =>
      random() < share ? 30 * random() - 10 : Infinity,
    );
    const found = nearestSite(cost, width, height);
    tried(cost, width, height).forEach((least, i) => {
      const j = found[i]!;
      if (least === Infinity) return void expect(j).toBe(-1);
      const [dx, dy] = [(i % width) - (j % width), Math.floor(i / width) - Math.floor(j / width)];
      expect(dx * dx + dy * dy + cost[j]!).toBeCloseTo(least, 9);
    });
  }
});

it('tells how far each pixel is from a mask, and Infinity where there is none', () => {
  const [width, height] = [7, 5];
  const mask = new Uint8Array(width * height);
  const out = new Float32Array(width * height);
  maskDistanceInto(out, mask, width, height);
  expect([...new Set(out)]).toEqual([Infinity]);
  mask[2 * width + 3] = 1;
  mask[0] = 1;
  maskDistanceInto(out, mask, width, height);
  out.forEach((d, i) => {
    const [x, y] = [i % width, Math.floor(i / width)];
    expect(d).toBeCloseTo(Math.min(Math.hypot(x, y), Math.hypot(x - 3, y - 2)), 6);
  });
});
