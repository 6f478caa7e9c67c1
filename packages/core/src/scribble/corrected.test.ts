// A selection that is corrected by strokes, and one that lies between two.
import { describe, expect, it } from 'vitest';
import type { Stroke } from '../document/layer.ts';
import { compareMasks } from '../testing/carried.ts';
import { seededRandom } from '../track/random.ts';
import { correctedMask } from './correctedMask.ts';
import { mergedMasks } from './mergedMasks.ts';
import { preparedPicture } from './preparedPicture.ts';

const [W, H] = [200, 140];
const disc = (cx: number, cy: number, r: number) =>
  Float32Array.from({ length: W * H }, (_, i) => (Math.hypot((i % W) - cx, Math.floor(i / W) - cy) < r ? 1 : 0));
const mask = (plane: Float32Array) => ({ width: W, height: H, inside: Uint8Array.from(plane) });
/** A red disc with a smaller one beside it, of its colour, on grey; all of it grainy. */
const [large, small] = [disc(70, 70, 40), disc(150, 70, 18)];
const random = seededRandom(5);
const grain = () => 0.03 * (random() - 0.5);
const both = large.map((v, i) => Math.max(v, small[i]!));
const picture = preparedPicture(
  {
    L: both.map(() => 0.5 + grain()),
    a: both.map((v) => 0.15 * v + grain()),
    b: both.map((v) => 0.05 * v + grain()),
  },
  W,
  H,
);
const stroke = (sign: Stroke['sign'], ...points: [number, number][]): Stroke => ({ sign, widthPx: 6, points });

describe('a correction', () => {
  it('takes in the surface that a stroke lies on, up to its edge, and leaves the rest as it was', () => {
    const found = correctedMask(picture, [stroke('in', [142, 70], [158, 70])], 1, large);
    expect(compareMasks(found, both)).toBeGreaterThan(0.97);
  });
  it('takes out what a stroke that leaves out lies on, and nothing else', () => {
    const found = correctedMask(picture, [stroke('out', [142, 70], [158, 70])], 1, both);
    expect(compareMasks(found, large)).toBeGreaterThan(0.97);
  });
  it('leaves in what is almost like what a stroke leaves out, beyond an edge between them', () => {
    const paler = (i: number) => i % W >= 70;
    const halves = {
      L: large.map((v, i) => 0.5 + (v > 0 && paler(i) ? 0.02 : 0) + grain()),
      a: large.map((v) => 0.15 * v + grain()),
      b: large.map((v) => 0.05 * v + grain()),
    };
    const found = correctedMask(preparedPicture(halves, W, H), [stroke('out', [85, 50], [85, 90])], 1, large);
    expect(
      compareMasks(
        found,
        large.map((v, i) => (paler(i) ? 0 : v)),
      ),
    ).toBeGreaterThan(0.95);
  });
  it('takes out what is narrower than a patch along all of it, and nothing beside it', () => {
    // a dark line of 3 px down the disc, marked over a third of its length
    const isLine = (i: number) => i % W >= 69 && i % W < 72;
    const lined = {
      L: large.map((v, i) => (v > 0 && isLine(i) ? 0.3 : 0.5) + grain() / 3),
      a: large.map((v, i) => (isLine(i) ? 0 : 0.15 * v) + grain() / 3),
      b: large.map((v, i) => (isLine(i) ? 0 : 0.05 * v) + grain() / 3),
    };
    const found = correctedMask(preparedPicture(lined, W, H), [stroke('out', [70, 60], [70, 85])], 1, large);
    const isDisc = (i: number) => large[i]! > 0;
    const share = (of: (i: number) => boolean) => {
      const there = found.filter((_, i) => isDisc(i) && of(i));
      return there.reduce((sum, v) => sum + v, 0) / there.length;
    };
    expect(share(isLine)).toBeLessThan(0.1);
    expect(share((i) => !isLine(i))).toBeGreaterThan(0.97);
  });
  it('finds the outline at the picture’s own edge where the selection was a little off', () => {
    const found = correctedMask(picture, [stroke('in', [60, 70], [80, 70])], 1, disc(73, 71, 40));
    expect(compareMasks(found, large)).toBeGreaterThan(0.97);
  });
});

describe('what lies between two selections', () => {
  it('is either where only it counts, and nothing of none', () => {
    expect(mergedMasks([{ mask: mask(large), weight: 1 }], W, H)).toEqual(large);
    expect(
      mergedMasks(
        [
          { mask: mask(large), weight: 1 },
          { mask: mask(small), weight: 0 },
        ],
        W,
        H,
      ),
    ).toEqual(large);
    expect(mergedMasks([], W, H)).toBeUndefined();
  });
  it('has its outline between theirs, nearer to that which counts for more', () => {
    const between = (weight: number) =>
      mergedMasks(
        [
          { mask: mask(disc(70, 70, 30)), weight: 1 - weight },
          { mask: mask(disc(70, 70, 42)), weight },
        ],
        W,
        H,
      )!;
    expect(compareMasks(between(0.25), disc(70, 70, 33))).toBeGreaterThan(0.97);
    expect(compareMasks(between(0.75), disc(70, 70, 39))).toBeGreaterThan(0.97);
  });
  it('has a hole, a limb or a region that only one has as the surer has it, its outline not worn by that', () => {
    const slit = (i: number) => i % W >= 67 && i % W < 72;
    const holed = large.map((v, i) => (slit(i) ? 0 : v));
    const merged = (first: Float32Array, second: Float32Array) =>
      mergedMasks(
        [
          { mask: mask(first), weight: 0.7 },
          { mask: mask(second), weight: 0.3 },
        ],
        W,
        H,
      )!;
    const within = disc(70, 70, 22);
    const slitOf = (found: Float32Array) => found.filter((_, i) => slit(i) && within[i]! > 0);
    expect(new Set(slitOf(merged(holed, large)))).toEqual(new Set([0]));
    expect(new Set(slitOf(merged(large, holed)))).toEqual(new Set([1]));
    // out of sight for one of them
    expect(merged(both, large)).toEqual(both);
    expect(merged(large, both)).toEqual(large);
    expect(merged(both, disc(0, 0, 0))).toEqual(both);
  });
  it('is at the size that is asked for', () => {
    const half = mergedMasks([{ mask: mask(large), weight: 1 }], W / 2, H / 2)!;
    expect(half.length).toBe((W * H) / 4);
    expect(half.reduce((s, v) => s + v, 0)).toBeCloseTo(large.reduce((s, v) => s + v, 0) / 4, -2);
  });
});
