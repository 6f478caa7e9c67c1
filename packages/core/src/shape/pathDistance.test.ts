// Distances found beside the edges against those from each edge by Pythagoras, and weights against the transform's.
import fc from 'fast-check';
import { expect, it } from 'vitest';
import { pathDistanceInto, pixelsNear } from './pathDistance.ts';

const [W, H] = [90, 60];
const REACH = 3;
const corner = fc.tuple(fc.integer({ min: -20, max: 110 }), fc.integer({ min: -20, max: 80 }));
const outline = fc.uniqueArray(corner, { minLength: 3, maxLength: 7, selector: String });

/** From the nearest of all edges, in doubles. */
function distanceTo(polygon: Float64Array, x: number, y: number): number {
  const n = polygon.length;
  let least = Infinity;
  for (let i = 0; i < n; i += 2) {
    const [ax, ay] = [polygon[i]!, polygon[i + 1]!];
    const [bx, by] = [polygon[(i + 2) % n]! - ax, polygon[(i + 3) % n]! - ay];
    const t = Math.min(Math.max(((x - ax) * bx + (y - ay) * by) / (bx * bx + by * by), 0), 1);
    least = Math.min(least, Math.hypot(x - ax - t * bx, y - ay - t * by));
  }
  return least;
}

it('of pixels near an outline, wherever it lies, one outline after the other', () => {
  let compared = 0;
  fc.assert(
    fc.property(outline, (corners) => {
      const polygon = Float64Array.from(corners.flat());
      const near = pixelsNear(W, H, polygon, REACH);
      if (!near) return;
      const distance = Float32Array.from({ length: W * H }, (_, i) =>
        distanceTo(polygon, (i % W) + 0.5, Math.floor(i / W) + 0.5),
      );
      expect(near.index.every((i, k) => Math.abs(near.distance[k]! - distance[i]!) < 1e-5)).toBe(true);
      const found = new Set(near.index);
      expect(found.size).toBe(near.index.length);
      const missed = [...distance.keys()].filter((i) => distance[i]! < REACH - 1e-4 && !found.has(i));
      expect(missed).toEqual([]);
      compared += near.index.length;
    }),
    { seed: 5, numRuns: 120 },
  );
  expect(compared).toBeGreaterThan(20_000);
});
it('has the weight of the nearest place', () => {
  const [polygon, weights] = [Float64Array.of(10, 10, 80, 12, 70, 50, 20, 45), [1, 2, 0.5, 3]];
  const near = pixelsNear(W, H, polygon, REACH, weights)!;
  const [distance, weight] = [new Float32Array(W * H), new Float32Array(W * H)];
  pathDistanceInto(distance, W, H, polygon, REACH, weights, weight);
  expect(near.index.length).toBeGreaterThan(500);
  near.index.forEach((i, k) => expect(near.weight![k]).toBeCloseTo(weight[i]!, 2));
});
it('leaves to the transform what reaches far', () => {
  const polygon = Float64Array.of(10, 10, 80, 12, 40, 50);
  expect(pixelsNear(W, H, polygon, 60)).toBeUndefined();
  expect(pixelsNear(W, H, polygon, 2)!.weight).toBeUndefined();
});
