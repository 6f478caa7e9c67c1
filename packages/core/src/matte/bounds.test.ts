import fc from 'fast-check';
import { expect, it } from 'vitest';
import { boundsOfMatte, grownBox, resampledMatte } from './bounds.ts';

const [W, H] = [20, 10];
const matte = (...pixels: [x: number, y: number, alpha: number][]) => {
  const out = new Float32Array(W * H);
  for (const [x, y, alpha] of pixels) out[y * W + x] = alpha;
  return out;
};

it('bounds what is selected by more than half, the far sides just outside', () => {
  expect(boundsOfMatte(matte([3, 2, 1], [7, 6, 0.51], [15, 9, 0.5]), W, H)).toEqual({ x0: 3, y0: 2, x1: 8, y1: 7 });
  expect(boundsOfMatte(matte([0, 0, 1]), W, H)).toEqual({ x0: 0, y0: 0, x1: 1, y1: 1 });
});
it('is nothing where nothing is selected', () => {
  expect(boundsOfMatte(matte(), W, H)).toBeUndefined();
  expect(boundsOfMatte(matte([3, 3, 0.5]), W, H)).toBeUndefined();
});
it('is the box of all pixels looked at one by one, whatever the sizes, the values and where the plane begins', () => {
  const value = fc.constantFrom(0, 0, 0, 0, 0, 0, -0, 1e-45, 0.3, 0.5, 0.6, 1);
  const plane = fc
    .record({ width: fc.integer({ min: 1, max: 9 }), height: fc.integer({ min: 1, max: 7 }), from: fc.nat(1) })
    .chain((size) =>
      fc.record({
        size: fc.constant(size),
        values: fc.array(value, { minLength: size.width * size.height, maxLength: size.width * size.height }),
      }),
    );
  fc.assert(
    fc.property(plane, fc.constantFrom(0, 0.5), ({ size: { width, height, from }, values }, above) => {
      const alpha = new Float32Array(values.length + from).subarray(from);
      alpha.set(values);
      const over = values.flatMap((v, i) =>
        Math.fround(v) > above ? [[i % width, Math.floor(i / width)] as const] : [],
      );
      const [xs, ys] = [over.map(([x]) => x), over.map(([, y]) => y)];
      const box = { x0: Math.min(...xs), y0: Math.min(...ys), x1: Math.max(...xs) + 1, y1: Math.max(...ys) + 1 };
      expect(boundsOfMatte(alpha, width, height, above)).toEqual(over.length > 0 ? box : undefined);
    }),
    { seed: 7, numRuns: 2000 },
  );
});
it('grows by a share of the longer side, as far as the picture goes', () => {
  expect(grownBox({ x0: 4, y0: 4, x1: 14, y1: 6 }, 0.2, W, H)).toEqual({ x0: 2, y0: 2, x1: 16, y1: 8 });
  expect(grownBox({ x0: 0, y0: 1, x1: 20, y1: 9 }, 0.5, W, H)).toEqual({ x0: 0, y0: 0, x1: 20, y1: 10 });
});
it('resamples a matte to another width in its own proportions', () => {
  const half = resampledMatte(
    Float32Array.from({ length: W * H }, (_, i) => (i % W < 10 ? 1 : 0)),
    W,
    H,
    10,
  );
  expect([half.width, half.height]).toEqual([10, 5]);
  expect([...half.alpha.subarray(0, 10)]).toEqual([1, 1, 1, 1, 1, 0, 0, 0, 0, 0]);
});
