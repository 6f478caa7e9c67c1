import { describe, expect, it } from 'vitest';
import { oklabFromLinear709 } from '../colour/oklab.ts';
import type { OklabPlanes } from '../colour/oklabPlanes.ts';
import { cutOut, type PixelBox } from '../matte/bounds.ts';
import { coverageByParts, coverageOf } from './coverage.ts';

const [W, H] = [60, 40];
type Rgb = [number, number, number];
const inBox = (x: number, y: number, [x0, y0, x1, y1]: readonly number[]) => x >= x0! && x < x1! && y >= y0! && y < y1!;

/** A picture made pixel by pixel, in linear light. */
function picture(at: (x: number, y: number) => Rgb): OklabPlanes {
  const out: OklabPlanes = { L: new Float32Array(W * H), a: new Float32Array(W * H), b: new Float32Array(W * H) };
  for (let i = 0; i < W * H; i++) {
    const lab = oklabFromLinear709(at(i % W, Math.floor(i / W)));
    [out.L[i], out.a[i], out.b[i]] = [lab.L, lab.a, lab.b];
  }
  return out;
}
const matte = (box: readonly number[], alpha = 1) =>
  Float32Array.from({ length: W * H }, (_, i) => (inBox(i % W, Math.floor(i / W), box) ? alpha : 0));

const CASE = [10, 8, 50, 32];
const TEAL: Rgb = [0.02, 0.22, 0.24];
const shade = ([r, g, b]: Rgb, k: number): Rgb => [r * k, g * k, b * k];
/** A teal case, lit from the left so that its right side has half the light, on a warm wall. */
const scene = picture((x, y) => (inBox(x, y, CASE) ? shade(TEAL, 1 - 0.5 * (x / W)) : [0.5, 0.42, 0.33]));

describe('coverage', () => {
  it('is 1 for a matte that ends where the colour ends, shading and all', () => {
    expect(coverageOf(scene, matte(CASE), W, H)).toBeCloseTo(1, 6);
  });
  it('is the share that is selected of a surface of one colour', () => {
    const part = [10, 8, 30, 32];
    expect(coverageOf(scene, matte(part), W, H)).toBeGreaterThan(0.45);
    expect(coverageOf(scene, matte(part), W, H)).toBeLessThan(0.65);
    // a few pixels of a case of 960
    expect(coverageOf(scene, matte([14, 12, 17, 15]), W, H)).toBeLessThan(0.03);
  });
  it('counts what is half selected as half', () => {
    const alpha = matte(CASE, 0.5);
    for (let y = 8; y < 32; y++) alpha[y * W + 12] = 1;
    expect(coverageOf(scene, alpha, W, H)).toBeCloseTo(0.5 + 0.5 / 40, 2);
  });
  it('is 0 where nothing is selected for certain', () => {
    expect(coverageOf(scene, matte(CASE, 0.89), W, H)).toBe(0);
    expect(coverageOf(scene, new Float32Array(W * H), W, H)).toBe(0);
  });
  it('passes over the same colour elsewhere in the picture, and over other colours beside the piece', () => {
    const twice = picture((x, y) => {
      if (inBox(x, y, [10, 8, 30, 32])) return TEAL;
      if (inBox(x, y, [34, 8, 50, 32])) return TEAL;
      return inBox(x, y, [30, 8, 34, 32]) ? [0.3, 0.05, 0.05] : [0.5, 0.42, 0.33];
    });
    expect(coverageOf(twice, matte([10, 8, 30, 32]), W, H)).toBeCloseTo(1, 6);
  });
  it('does not run out of a grey piece into a grey that is much lighter', () => {
    const grey = picture((x, y) => (inBox(x, y, CASE) ? [0.05, 0.05, 0.05] : [0.6, 0.6, 0.6]));
    expect(coverageOf(grey, matte(CASE), W, H)).toBeCloseTo(1, 6);
  });
  it('counts what is like the piece in its own variety: a cloth of two dyes, a shiny thing', () => {
    // stripes of two colours well apart, and of two lightnesses: half of each is selected
    const wide: [Rgb, Rgb][] = [
      [TEAL, [0.06, 0.16, 0.36]],
      [shade(TEAL, 0.25), shade(TEAL, 1.6)],
    ];
    for (const [one, other] of wide) {
      const stripe = (y: number) => (y % 2 === 0 ? one : other);
      const striped = picture((x, y) => (inBox(x, y, CASE) ? stripe(y) : [0.5, 0.1, 0.05]));
      const share = coverageOf(striped, matte([10, 8, 30, 32]), W, H);
      expect(Math.abs(share - 0.5)).toBeLessThan(0.02);
    }
  });
  it('reaches the rows and columns at the picture’s own border', () => {
    const whole = picture(() => TEAL);
    expect(coverageOf(whole, matte([20, 20, 22, 22]), W, H)).toBeCloseTo(4 / (W * H), 9);
  });
  it('does not join the left and the right border of the picture', () => {
    const strips = picture((x) => (x === 0 || x === W - 1 ? TEAL : [0.5, 0.42, 0.33]));
    expect(coverageOf(strips, matte([0, 0, 1, H]), W, H)).toBeCloseTo(1, 6);
  });
});

describe('coverage of a picture made as it is asked for', () => {
  const asked = (oklab: OklabPlanes, alpha: Float32Array) => {
    const boxes: PixelBox[] = [];
    const oklabIn = (box: PixelBox): OklabPlanes => {
      boxes.push(box);
      return { L: cutOut(oklab.L, W, box), a: cutOut(oklab.a, W, box), b: cutOut(oklab.b, W, box) };
    };
    expect(coverageByParts(oklabIn, alpha, W, H)).toBe(coverageOf(oklab, alpha, W, H));
    return boxes.map(({ x0, y0, x1, y1 }) => [x0, y0, x1, y1]);
  };
  it('looks no further than round the matte where the colour ends there', () => {
    expect(asked(scene, matte([14, 10, 46, 30]))).toEqual([[6, 5, 54, 35]]);
    expect(asked(scene, matte(CASE))).toEqual([[0, 2, 60, 38]]);
  });
  it('looks at all of it where the colour goes on, to each side', () => {
    for (const box of [
      [12, 12, 20, 28],
      [40, 12, 48, 28],
      [12, 10, 48, 14],
      [12, 26, 48, 30],
    ])
      expect(asked(scene, matte(box)).at(-1)).toEqual([0, 0, W, H]);
  });
  it('looks at nothing where nothing is selected for certain', () => {
    expect(asked(scene, new Float32Array(W * H))).toEqual([]);
    expect(asked(scene, matte(CASE, 0.8))).toEqual([]);
  });
});
