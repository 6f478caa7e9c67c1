import { expect, it } from 'vitest';
import { between, colourField, type Grid } from './colourField.ts';

const [W, H] = [60, 40];
const plane = (of: (x: number, y: number) => number) =>
  Float32Array.from({ length: W * H }, (_, i) => of(i % W, Math.floor(i / W)));
const gridOf = (factor: number): Grid => ({
  factor,
  width: W,
  height: H,
  across: Math.ceil(W / factor),
  down: Math.ceil(H / factor),
});

it.each([1, 3, 7])(
  'of one colour is that colour everywhere, also where it is not seen (samples of %i px)',
  (factor) => {
    const [a, b] = [plane(() => 0.1), plane(() => -0.05)];
    const field = colourField(
      a,
      b,
      plane((x) => (x < 20 ? 1 : 0)),
      gridOf(factor),
      20 / factor,
      true,
    );
    for (const v of field.a) expect(v).toBeCloseTo(0.1, 4);
    for (const v of field.b) expect(v).toBeCloseTo(-0.05, 4);
  },
);
it('follows the colour from place to place, and the mean of all where none of it is near', () => {
  const a = plane((x) => (x < 30 ? 0 : 0.2));
  const near = colourField(
    a,
    a,
    plane(() => 1),
    gridOf(2),
    2,
    false,
  ).a;
  expect(near[2]).toBeCloseTo(0, 4);
  expect(near[27]).toBeCloseTo(0.2, 4);
  const corner = colourField(
    a,
    a,
    plane((x, y) => (x > 56 && y > 36 ? 1 : 0)),
    gridOf(2),
    1,
    false,
  ).a;
  expect(corner[0]).toBeCloseTo(0.2, 4);
});
it('looks away from a strip of something else where it is to be robust, and takes it in where not', () => {
  const a = plane((x) => (x >= 28 && x < 32 ? 0.3 : 0));
  const middle = (robust: boolean) =>
    colourField(
      a,
      a,
      plane(() => 1),
      gridOf(2),
      6,
      robust,
    ).a[10 * 30 + 15]!;
  expect(middle(true)).toBeLessThan(0.003);
  expect(middle(false)).toBeGreaterThan(0.03);
});
it('is bilinear between four samples', () => {
  const four = Float32Array.of(0, 1, 2, 4);
  expect(between(four, 0, 2, 0, 1, 0.5, 0.25)).toBe(0.5 + (3 - 0.5) * 0.25);
  expect([0, 1].map((f) => between(four, 0, 2, 0, 1, f, f))).toEqual([0, 4]);
});
