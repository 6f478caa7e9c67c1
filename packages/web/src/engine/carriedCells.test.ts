// A block of texture that goes over a plain ground, carried over two frames at half the size.
import { expect, it } from 'vitest';
import { makeTables, sourceFrame } from '@mellow/core';
import { carriedCells } from './carriedCells.ts';

const [W, H, SIDE] = [181, 120, 48];
const tables = makeTables();
/** The block stands `at` pixels from the left; its texture goes with it. */
function frame(at: number) {
  const [r, g, b] = [60, 60, 60].map((v) => new Uint8Array(W * H).fill(v)) as [Uint8Array, Uint8Array, Uint8Array];
  for (let y = 30; y < 30 + SIDE; y++)
    for (let x = 0; x < SIDE; x++) {
      const i = y * W + x + at;
      r[i] = 150 + 60 * Math.sin(0.7 * x + 0.3 * y);
      g[i] = 90 + 40 * Math.sin(0.4 * x - 0.6 * y);
      b[i] = 40;
    }
  return sourceFrame({ width: W, height: H, r, g, b }, 'srgb', 1, tables);
}
it('what strokes select is shown on the frames that follow, cut out, with how sure it is', () => {
  const alpha = new Float32Array(W * H);
  for (let y = 30; y < 30 + SIDE; y++) alpha.fill(1, y * W + 40, y * W + 40 + SIDE);
  const cells = carriedCells(frame(40), alpha, [frame(43), frame(46)], { width: 36, height: 28 });
  expect(cells.length).toBe(2);
  for (const { picture, share, certainty } of cells) {
    expect(share).toBeCloseTo((SIDE * SIDE) / (W * H), 1.5);
    expect(certainty).toBeGreaterThan(0.7);
    expect(picture!.width).toBeLessThanOrEqual(36);
    expect(picture!.height).toBeLessThanOrEqual(28);
  }
  const nothing = carriedCells(frame(40), new Float32Array(W * H), [frame(43)], { width: 36, height: 28 });
  expect(nothing).toEqual([{ picture: undefined, share: 0, certainty: 0 }]);
});
