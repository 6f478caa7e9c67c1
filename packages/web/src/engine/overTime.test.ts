import { describe, expect, it } from 'vitest';
import type { Picture } from './frameProtocol.ts';
import { cutOutCell, ghosted } from './overTime.ts';

describe('a matte with those beside it', () => {
  it('is grey where they agree, and tells what each of the others has alone', () => {
    const [now, before, after] = [
      [1, 0.5, 0, 0],
      [1, 0.5, 1, 0],
      [1, 0.5, 0, 1],
    ].map((v) => Float32Array.from(v)) as [Float32Array, Float32Array, Float32Array];
    const { rgba } = ghosted(now, before, after, 4, 1);
    const pixel = (i: number) => [...rgba.subarray(4 * i, 4 * i + 3)];
    expect([0, 1, 2, 3].map(pixel)).toEqual([
      [255, 255, 255],
      [128, 128, 128],
      [128, 0, 0],
      [0, 0, 128],
    ]);
  });
});
describe('what is selected, in a cell', () => {
  const [W, H] = [40, 30];
  const picture = (): Picture => ({ rgba: new Uint8ClampedArray(4 * W * H).fill(200), width: W, height: H });
  const alpha = Float32Array.from({ length: W * H }, (_, i) =>
    i % W >= 10 && i % W < 20 && i >= 5 * W && i < 25 * W ? 1 : 0,
  );
  it('is cut out of its surroundings, no larger than the cell, with its share of the picture', () => {
    const { picture: cell, share } = cutOutCell(picture(), alpha, 12, 12);
    expect(share).toBeCloseTo(200 / (W * H));
    expect(cell!.height).toBeLessThanOrEqual(12);
    expect(cell!.width).toBeLessThan(cell!.height);
    // its middle is the picture's, its rim the ground
    const at = (x: number, y: number) => cell!.rgba[4 * (y * cell!.width + x)];
    expect(at(Math.floor(cell!.width / 2), Math.floor(cell!.height / 2))).toBe(200);
    expect(at(0, 0)).not.toBe(200);
  });
  it('is nothing where nothing is selected', () =>
    expect(cutOutCell(picture(), new Float32Array(W * H), 12, 12)).toEqual({ picture: undefined, share: 0 }));
});
