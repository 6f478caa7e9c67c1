// Moving an edge against its definition: all that lies within the radius of the region where α reaches ½.
import { describe, expect, it } from 'vitest';
import { randomMatte } from '../testing/mattes.ts';
import { moveEdgeInPlace } from './edge.ts';

const [W, H] = [48, 36];
/** Sub-samples a pixel side for the region's outline. */
const FINE = 8;
/** Places where the bilinear surface through the pixels' α reaches ½, in pixels. */
function regionPlaces(alpha: Float32Array, isWanted: (a: number) => boolean): [number, number][] {
  const out: [number, number][] = [];
  for (let v = 0; v < (H - 1) * FINE; v++)
    for (let u = 0; u < (W - 1) * FINE; u++) {
      const [x, y] = [u / FINE, v / FINE];
      const [ix, iy] = [Math.floor(x), Math.floor(y)];
      const [fx, fy] = [x - ix, y - iy];
      const i = iy * W + ix;
      const a =
        (1 - fy) * ((1 - fx) * alpha[i]! + fx * alpha[i + 1]!) +
        fy * ((1 - fx) * alpha[i + W]! + fx * alpha[i + W + 1]!);
      if (isWanted(a)) out.push([x, y]);
    }
  return out;
}

describe('an edge moved', () => {
  // discs of soft edges, none thinner than the radius; they touch one another and the rim
  it.each([1, 2, 3, 4])('is where the outline lies that far off: matte %i', (seed) => {
    const alpha = randomMatte(W, H, seed, 4);
    for (const radius of [1.4, 3.2, -1.4]) {
      const isWanted = (a: number) => (radius > 0 ? a >= 0.5 : a < 0.5);
      const places = regionPlaces(alpha, (a) => isWanted(a) && Math.abs(a - 0.5) < 0.25);
      const moved = alpha.slice();
      moveEdgeInPlace(moved, W, H, radius);
      const wrong: string[] = [];
      for (let y = 2; y < H - 2; y++)
        for (let x = 2; x < W - 2; x++) {
          const nearest = isWanted(alpha[y * W + x]!)
            ? 0
            : Math.sqrt(places.reduce((n, [u, v]) => Math.min(n, (u - x) ** 2 + (v - y) ** 2), Infinity));
          const isNear = nearest < Math.abs(radius) - 0.35;
          const isFar = nearest > Math.abs(radius) + 0.35;
          const reaches = moved[y * W + x]! >= 0.5;
          if ((isNear && reaches !== radius > 0) || (isFar && reaches === radius > 0)) wrong.push(`${x}, ${y}`);
        }
      expect([radius, wrong]).toEqual([radius, []]);
    }
  });
  it('leaves alone a matte without an outline, and with no radius any', () => {
    const faint = randomMatte(W, H, 5, 4).map((a) => 0.45 * a);
    const kept = faint.slice();
    moveEdgeInPlace(faint, W, H, 3);
    expect(faint).toEqual(kept);
    const matte = randomMatte(W, H, 5, 4);
    for (const radius of [0, NaN, Infinity]) {
      const same = matte.slice();
      moveEdgeInPlace(same, W, H, radius);
      expect(same).toEqual(matte);
    }
    const full = new Float32Array(W * H).fill(1);
    moveEdgeInPlace(full, W, H, -5);
    expect(full.every((a) => a === 1)).toBe(true);
  });
  it('turned or mirrored is the moved edge of the turned or mirrored matte', () => {
    const alpha = randomMatte(W, H, 6, 5);
    const flipped = (of: Float32Array) => of.map((_, i) => of[Math.floor(i / W) * W + W - 1 - (i % W)]!);
    const upset = (of: Float32Array) => of.map((_, i) => of[(H - 1 - Math.floor(i / W)) * W + (i % W)]!);
    const turned = (of: Float32Array) => of.map((_, i) => of[(i % H) * W + Math.floor(i / H)]!);
    for (const radius of [2.3, -2.3]) {
      const moved = (of: Float32Array, w = W, h = H) => {
        const out = of.slice();
        moveEdgeInPlace(out, w, h, radius);
        return out;
      };
      const plain = moved(alpha);
      const off = (a: Float32Array, b: Float32Array) => a.filter((v, i) => Math.abs(v - b[i]!) > 0.02).length;
      // which of two equally near places is taken differs: at a few pixels on the skeleton of the ground
      for (const other of [flipped(moved(flipped(alpha))), upset(moved(upset(alpha)))])
        expect(off(other, plain)).toBeLessThan(12);
      expect(off(moved(turned(alpha), H, W), turned(plain))).toBeLessThan(12);
    }
  });
});
