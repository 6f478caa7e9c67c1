// Random sample consensus on point pairs whose motion is known.
import { expect, it } from 'vitest';
import { project, type Homography } from './homography.ts';
import { MotionModel } from './motionModel.ts';
import { robustMotion } from './robustFit.ts';
import { seededRandom } from './random.ts';

const N = 60;
const STILL: Homography = [1, 0, 0, 0, 1, 0, 0, 0, 1];
const shift: Homography = [1, 0, 12, 0, 1, -5, 0, 0, 1];
/** Pairs moved by `shift`; those from `from` on are off by `off` pixels instead, all alike. */
function pairs(from: number, off: number) {
  const random = seededRandom(7);
  const [a, b] = [new Float64Array(2 * N), new Float64Array(2 * N)];
  for (let i = 0; i < N; i++) {
    const [x, y] = [random() * 300, random() * 200];
    const [u, v] = project(shift, x, y);
    a.set([x, y], 2 * i);
    b.set([u + (i >= from ? off : 0), v], 2 * i);
  }
  return { a, b };
}
const fit = (from: number, off: number) => {
  const { a, b } = pairs(from, off);
  const model = new MotionModel(
    { move: true, turn: false, scale: false, shear: false, perspective: false },
    150,
    100,
    100,
  );
  return robustMotion(model, STILL, a, b, new Uint8Array(N).fill(1), 3);
};

it('finds what most agree on and leaves out the others, though those agree with one another', () => {
  const found = fit(40, 30)!;
  expect([found.motion[2], found.motion[5]]).toEqual([expect.closeTo(12, 6), expect.closeTo(-5, 6)]);
  expect(found.share).toBeCloseTo(40 / N, 9);
  expect([...found.agreeing.subarray(38, 42)]).toEqual([1, 1, 0, 0]);
});
it('a pair agrees within 1.2 pixels and no further: what slides by 3 is something else', () => {
  const found = fit(40, 3)!;
  expect([found.motion[2], found.share]).toEqual([expect.closeTo(12, 6), expect.closeTo(40 / N, 9)]);
  expect(fit(40, 0.5)!.share).toBe(1);
});
it('says nothing of too few pairs', () => {
  const { a, b } = pairs(N, 0);
  const model = new MotionModel({ move: true, turn: true, scale: true, shear: true, perspective: true }, 150, 100, 100);
  expect(
    robustMotion(
      model,
      STILL,
      a,
      b,
      Uint8Array.from({ length: N }, (_, i) => (i < 3 ? 1 : 0)),
      3,
    ),
  ).toBeUndefined();
});
