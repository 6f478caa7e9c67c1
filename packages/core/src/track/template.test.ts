// What is taken down of a region's look, on pictures whose texture and noise are known.
import { describe, expect, it } from 'vitest';
import { GRID, templateOf } from './template.ts';
import { pyramidOf } from './pyramid.ts';
import { seededRandom } from './random.ts';
import { pictureOf, pyramidOfLook, texture } from '../testing/texture.ts';

const [W, H] = [200, 160];
const BOX = { x0: 40, y0: 30, x1: 160, y1: 130 };
const own = texture(21);
const picture = pyramidOfLook(own, W, H);
const template = templateOf(picture, BOX, () => true);

describe('samples', () => {
  it('lie at pixel centres of the box, with the picture’s luma and central differences', () => {
    for (const [samples, level] of [
      [template.fine, 0],
      [template.coarse, 1],
    ] as const) {
      const { width, luma } = picture[level]!;
      const s = 1 << level;
      expect(samples.level).toBe(level);
      for (let k = 0; k < samples.count; k += 7) {
        const [x, y] = [samples.x[k]!, samples.y[k]!];
        expect([x >= BOX.x0, x <= BOX.x1, y >= BOX.y0, y <= BOX.y1]).toEqual([true, true, true, true]);
        const i = (y / s - 0.5) * width + x / s - 0.5;
        expect(samples.luma[k]).toBe(luma[i]);
        expect(samples.gx[k]).toBeCloseTo((luma[i + 1]! - luma[i - 1]!) / 2, 6);
        expect(samples.gy[k]).toBeCloseTo((luma[i + width]! - luma[i - width]!) / 2, 6);
      }
    }
  });
  it('belong to the block they lie in: ten by ten blocks over the box', () => {
    const { x, y, block, count } = template.fine;
    for (let k = 0; k < count; k++)
      expect(block[k]).toBe(Math.floor((y[k]! - 30) / 10) * GRID + Math.floor((x[k]! - 40) / 12));
  });
  it('are at most 90 a block, 40 at half size, and no place twice', () => {
    for (const [samples, most] of [
      [template.fine, 90],
      [template.coarse, 40],
    ] as const) {
      const counts = new Map<number, number>();
      for (const b of samples.block) counts.set(b, (counts.get(b) ?? 0) + 1);
      expect(counts.size).toBe(100);
      for (const n of counts.values()) expect(n).toBeLessThanOrEqual(most);
      expect(new Set(Array.from(samples.x, (x, k) => `${x} ${samples.y[k]}`)).size).toBe(samples.count);
    }
  });
  it('are the steepest of their block to three fifths, the steepest first', () => {
    const steep = (k: number) => template.fine.gx[k]! ** 2 + template.fine.gy[k]! ** 2;
    const ofBlock = Array.from(template.fine.block, (b, k) => [b, k] as const)
      .filter(([b]) => b === 44)
      .map(([, k]) => k);
    const steepest = ofBlock.slice(0, 54);
    for (let i = 1; i < steepest.length; i++) expect(steep(steepest[i]!)).toBeLessThanOrEqual(steep(steepest[i - 1]!));
    for (const k of ofBlock.slice(54)) expect(steep(k)).toBeLessThanOrEqual(steep(steepest.at(-1)!));
    // none steeper was passed over
    const { width, luma } = picture[0]!;
    const all: number[] = [];
    for (let y = 70; y < 80; y++)
      for (let x = 88; x < 100; x++) {
        const i = y * width + x;
        all.push(((luma[i + 1]! - luma[i - 1]!) / 2) ** 2 + ((luma[i + width]! - luma[i - width]!) / 2) ** 2);
      }
    all.sort((a, b) => b - a);
    expect(steep(steepest[0]!)).toBeCloseTo(all[0]!, 9);
    expect(steep(steepest.at(-1)!)).toBeCloseTo(all[53]!, 9);
  });
  it('keep off what is not allowed, and off the rim of the picture', () => {
    const left = templateOf(picture, BOX, (x) => x < 100);
    expect(Math.max(...left.fine.x)).toBeLessThan(100);
    expect(left.share.filter((s, b) => b % GRID >= 5 && s > 0).length).toBe(0);
    const whole = templateOf(picture, { x0: 0, y0: 0, x1: W, y1: H }, () => true);
    expect([Math.min(...whole.fine.x), Math.max(...whole.fine.x)]).toEqual([2.5, W - 2.5]);
    expect([Math.min(...whole.fine.y), Math.max(...whole.fine.y)]).toEqual([2.5, H - 2.5]);
  });
  it('of a large box are taken in steps, all over it', () => {
    const large = pyramidOfLook(own, 900, 700);
    const { fine } = templateOf(large, { x0: 50, y0: 50, x1: 850, y1: 650 }, () => true);
    expect(fine.count).toBe(90 * 100);
    expect(new Set(fine.block).size).toBe(100);
  });
});

describe('texture', () => {
  it('counts where it is: shares add up to 1, and a flat half has none', () => {
    const half = templateOf(
      pyramidOfLook((x, y) => (x < 100 ? own(x, y) : 0.5), W, H),
      BOX,
      () => true,
    );
    expect(half.share.reduce((a, b) => a + b, 0)).toBeCloseTo(1, 9);
    for (let b = 0; b < 100; b++) if (b % GRID > 5) expect(half.share[b]).toBe(0);
    expect(half.share[12]).toBeGreaterThan(0);
  });
  it('counts by the square root of its squared slope: twice the contrast has twice the share', () => {
    const { share } = templateOf(
      pyramidOfLook((x, y) => 0.5 + (y < 80 ? 1 : 0.5) * (own(x / 6, (y + (y < 80 ? 0 : -50)) / 6) - 0.5), W, H),
      BOX,
      () => true,
    );
    // the lower half shows the upper one again, moved by five rows of blocks, with half the contrast
    let [strong, weak] = [0, 0];
    for (const b of [11, 12, 13, 14, 15, 16, 17, 18, 21, 22, 23, 24, 25, 26, 27, 28]) {
      strong += share[b]!;
      weak += share[b + 50]!;
    }
    expect(strong / weak).toBeGreaterThan(1.9);
    // a little more than 2: noise takes more from the weaker half
    expect(strong / weak).toBeLessThan(2.3);
  });
  it('has the variance of its samples in each block', () => {
    const lumas = Array.from(template.fine.luma).filter((_, k) => template.fine.block[k] === 37);
    const mean = lumas.reduce((a, b) => a + b, 0) / lumas.length;
    expect(template.variance[37]).toBeCloseTo(lumas.reduce((s, v) => s + (v - mean) ** 2, 0) / lumas.length, 8);
  });
});

describe('noise', () => {
  const random = seededRandom(4);
  const normal = () => Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random());
  /** A slow ramp with noise of a deviation: the ground level of a pyramid smooths it by [1 2 1]/4 both ways. */
  const noisy = (sigma: number, look = (x: number) => x / 400) =>
    templateOf(
      pyramidOf(
        pictureOf(look, W, H).map((v) => v + sigma * normal()),
        W,
        H,
      ),
      BOX,
      () => true,
    );
  it('is measured after the smoothing, which leaves 6/16 of its deviation', () => {
    for (const sigma of [0.01, 0.04]) {
      const { noise } = noisy(sigma);
      expect(noise / sigma).toBeGreaterThan(0.375 * 0.93);
      expect(noise / sigma).toBeLessThan(0.375 * 1.07);
    }
  });
  it('is never taken for less than 0.4 of an 8-bit code', () => {
    expect(
      templateOf(
        pyramidOfLook((x) => x / 400, W, H),
        BOX,
        () => true,
      ).noise,
    ).toBe(0.4 / 255);
  });
  it('is no texture: noise on a flat ground leaves no block with a share, and none of its slope is true', () => {
    const flat = noisy(0.02, () => 0.5);
    expect(flat.share.filter((s) => s > 0).length).toBeLessThan(10);
    const textured = templateOf(
      pyramidOfLook((x, y) => own(x / 3, y / 3), W, H),
      BOX,
      () => true,
    );
    expect(textured.trueShare).toBeGreaterThan(0.9);
    expect(
      templateOf(
        pyramidOfLook(() => 0.5, W, H),
        BOX,
        () => true,
      ).trueShare,
    ).toBe(0);
  });
});
