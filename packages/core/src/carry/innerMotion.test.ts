import { expect, it } from 'vitest';
import { seededRandom } from '../track/random.ts';
import { project, STILL } from '../track/homography.ts';
import { pyramidOf } from '../track/pyramid.ts';
import { bestShift } from './bestShift.ts';
import { groundMotion } from './groundMotion.ts';
import { innerMotion } from './innerMotion.ts';

const [W, H] = [240, 160];
const BOX = { x0: 70, y0: 50, x1: 150, y1: 110 };
const random = seededRandom(9);
const noise = Float32Array.from({ length: 400 * 400 }, () => random());
/** Fine noise, smoothed a little; the box moves by (dx, dy), the rest by (gx, gy). */
function picture([dx, dy]: readonly [number, number], [gx, gy]: readonly [number, number]) {
  const luma = new Float32Array(W * H);
  for (let y = 0; y < H; y++)
    for (let x = 0; x < W; x++) {
      const [u, v] = [x - dx, y - dy];
      const isIn = u >= BOX.x0 && u < BOX.x1 && v >= BOX.y0 && v < BOX.y1;
      const [p, q] = isIn ? [u + 100, v + 100] : [x - gx + 40, y - gy + 200];
      let sum = 0;
      for (const k of [-1, 0, 1]) for (const j of [-1, 0, 1]) sum += noise[(q + k) * 400 + p + j]!;
      luma[y * W + x] = sum / 9;
    }
  return pyramidOf(luma, W, H);
}
const mask = Float32Array.from({ length: W * H }, (_, i) => {
  const [x, y] = [i % W, Math.floor(i / W)];
  return x >= BOX.x0 && x < BOX.x1 && y >= BOX.y0 && y < BOX.y1 ? 1 : 0;
});

it('is that of the points inside, whatever the rest does; and the ground’s that of the points outside', () => {
  const [from, to] = [picture([0, 0], [0, 0]), picture([6, -4], [-3, 2])];
  const ground = groundMotion(from, to, mask);
  const [gx, gy] = project(ground, 30, 30);
  expect(gx).toBeCloseTo(33, 0);
  expect(gy).toBeCloseTo(28, 0);
  const found = innerMotion(from, to, mask, BOX, STILL, ground)!;
  const [x, y] = project(found.forth, 110, 80);
  expect(x).toBeCloseTo(116, 1);
  expect(y).toBeCloseTo(76, 1);
  expect(found.share).toBeGreaterThan(0.6);
});
it('is found after a leap further than points are followed', () => {
  const [from, to] = [picture([0, 0], [0, 0]), picture([44, 21], [0, 0])];
  const shift = bestShift(from, to, mask, BOX, STILL)!;
  expect([shift[2], shift[5]]).toEqual([44, 21]);
  const [x, y] = project(innerMotion(from, to, mask, BOX, STILL, STILL)!.forth, 110, 80);
  expect(x).toBeCloseTo(154, 1);
  expect(y).toBeCloseTo(101, 1);
});
it('is not made up where the piece is gone', () => {
  const [from, gone] = [picture([0, 0], [0, 0]), picture([0, 400], [0, 0])];
  expect(bestShift(from, gone, mask, BOX, STILL)).toBeUndefined();
  expect(innerMotion(from, gone, mask, BOX, STILL, STILL)).toBeUndefined();
});
