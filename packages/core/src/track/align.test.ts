// Laying a look over a frame, on textures whose motion and light are known, and its parts against plain sums.
import { describe, expect, it } from 'vitest';
import { agreement, align, blockCorrelation, readSamples } from './align.ts';
import { project, STILL, type Homography } from './homography.ts';
import { MotionModel } from './motionModel.ts';
import { GRID, templateOf, type Samples } from './template.ts';
import { seededRandom } from './random.ts';
import { after, pyramidOfLook, texture, type Look } from '../testing/texture.ts';

const [W, H] = [160, 120];
const own = texture(11);
const BOX = { x0: 40, y0: 30, x1: 120, y1: 90 };
const template = templateOf(pyramidOfLook(own, W, H), BOX, () => true);
const affine = new MotionModel({ move: true, turn: true, scale: true, shear: true, perspective: false }, 80, 60, 40);
const every = new Float64Array(GRID * GRID).fill(1);
const motion: Homography = [1.01, -0.02, 1.4, 0.015, 0.99, -0.8, 0, 0, 1];
const pictureOf = (look: Look) => pyramidOfLook(look, W, H);
const off = (found: Homography, truth: Homography): number =>
  Math.max(
    ...(
      [
        [40, 30],
        [120, 30],
        [120, 90],
        [40, 90],
      ] as const
    ).map(([x, y]) => {
      const [p, q] = [project(found, x, y), project(truth, x, y)];
      return Math.hypot(p[0] - q[0], p[1] - q[1]);
    }),
  );

describe('align', () => {
  it('finds an affine motion, and the light’s gain and lift with it', () => {
    const lit = after(motion, own);
    const found = align(
      affine,
      template.fine,
      pictureOf((x, y) => 1.2 * lit(x, y) - 0.07),
      STILL,
      every,
      0.01,
      12,
    )!;
    expect(off(found.motion, motion)).toBeLessThan(0.06);
    expect(Math.abs(found.gain - 1.2)).toBeLessThan(0.02);
    expect(Math.abs(found.bias + 0.07)).toBeLessThan(0.01);
  });
  it('does no more rounds than it may', () => {
    const to = pictureOf(after(motion, own));
    const errors = [1, 2, 3, 6].map((n) =>
      off(align(affine, template.fine, to, STILL, every, 0.01, n)!.motion, motion),
    );
    expect(errors[1]!).toBeLessThan(errors[0]! / 2);
    expect(Math.max(...errors.slice(2))).toBeLessThan(0.06);
  });
  it('says how far what is left spreads: noise of a known deviation', () => {
    const random = seededRandom(3);
    const normal = () => Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random());
    const clean = pictureOf(own);
    const noisy = clean.map((l) => ({ ...l, luma: l.luma.map((v) => v + 0.01 * normal()) }));
    const found = align(affine, template.fine, noisy, STILL, every, 0.01, 8)!;
    expect(found.sigma).toBeGreaterThan(0.0085);
    expect(found.sigma).toBeLessThan(0.0115);
    // … but no more than twice, and no less than half of what earlier frames left
    expect(align(affine, template.fine, noisy, STILL, every, 0.002, 8)!.sigma).toBeCloseTo(0.004, 6);
    expect(align(affine, template.fine, noisy, STILL, every, 0.04, 8)!.sigma).toBeCloseTo(0.02, 6);
  });
  it('has the normal matrix of its last round: Σ w·c·cᵀ over motion, luma and one', () => {
    const to = pictureOf(own);
    const { normal } = align(affine, template.fine, to, STILL, every, 0.01, 1)!;
    const { count, x, y, luma, gx, gy } = template.fine;
    const n = affine.size + 2;
    const plain = new Float64Array(n * n);
    const flow = new Float64Array(2 * affine.size);
    for (let i = 0; i < count; i++) {
      affine.flowInto(flow, x[i]!, y[i]!);
      const steepest = Array.from({ length: affine.size }, (_, k) => gx[i]! * flow[2 * k]! + gy[i]! * flow[2 * k + 1]!);
      const c = [...steepest, luma[i]!, 1];
      for (let a = 0; a < n; a++) for (let b = 0; b < n; b++) plain[a * n + b] = plain[a * n + b]! + c[a]! * c[b]!;
    }
    // the frame is the look itself: every residual is 0 and every weight 1
    normal.forEach((v, k) => expect(Math.abs(v - plain[k]!)).toBeLessThan(1e-5 * Math.max(Math.abs(plain[k]!), 1)));
  });
  it('looks neither at blocks without weight nor at held samples, whatever they show', () => {
    const other = texture(12);
    const moved = after([1, 0, 1.5, 0, 1, 0.5, 0, 0, 1], own);
    const half = pictureOf((x, y) => (x < 82 ? other(x, y) : moved(x, y)));
    const right = every.map((_, b) => (b % GRID < 6 ? 0 : 1));
    const held = Uint8Array.from(template.fine.x, (x) => (x < 88 ? 1 : 0));
    const move = new MotionModel(
      { move: true, turn: false, scale: false, shear: false, perspective: false },
      80,
      60,
      40,
    );
    for (const found of [
      align(move, template.fine, half, STILL, right, 0.005, 10),
      align(move, template.fine, half, STILL, every, 0.005, 10, 1, 0, { held }),
    ])
      expect(off(found!.motion, [1, 0, 1.5, 0, 1, 0.5, 0, 0, 1])).toBeLessThan(0.05);
  });
  it('gives up where nothing lies on the picture, nothing is weighed, or the light is no light of it', () => {
    const to = pictureOf(own);
    const fit = (start: Homography, weight = every) => align(affine, template.fine, to, start, weight, 0.01, 6);
    expect(fit([1, 0, 500, 0, 1, 0, 0, 0, 1])).toBeUndefined();
    expect(
      fit(
        STILL,
        every.map(() => 0),
      ),
    ).toBeUndefined();
    const darkened = pictureOf((x, y) => 0.5 + 0.1 * (own(x, y) - 0.5));
    expect(align(affine, template.fine, darkened, STILL, every, 1, 6, 0.1, 0.45)).toBeUndefined();
    const dimmed = pictureOf((x, y) => 0.5 + 0.3 * (own(x, y) - 0.5));
    expect(align(affine, template.fine, dimmed, STILL, every, 1, 6, 0.3, 0.35)!.gain).toBeCloseTo(0.3, 2);
  });
});

/** Samples with given luma, all in given blocks. */
const listed = (luma: number[], block: number[]): Samples => ({
  level: 0,
  count: luma.length,
  x: new Float64Array(luma.length),
  y: new Float64Array(luma.length),
  luma: Float32Array.from(luma),
  gx: new Float32Array(luma.length),
  gy: new Float32Array(luma.length),
  block: Uint8Array.from(block),
});

describe('the correlation of a block', () => {
  it('is that of Pearson, its gain the ratio of deviations', () => {
    // r of (1, 2, 3, 4, 5) and (2, 4, 5, 4, 5) is 6/√60; deviations √2 and √1.2: worked by hand
    const { ncc, gain } = blockCorrelation(listed([1, 2, 3, 4, 5], [7, 7, 7, 7, 7]), Float32Array.of(2, 4, 5, 4, 5), 5);
    expect(ncc[7]).toBeCloseTo(6 / Math.sqrt(60), 6);
    expect(gain[7]).toBeCloseTo(Math.sqrt(1.2 / 2), 6);
  });
  it('leaves out samples off the picture, and says nothing of blocks with too few', () => {
    const samples = listed([1, 2, 3, 4, 5, 1, 2], [7, 7, 7, 7, 7, 7, 8]);
    const { ncc } = blockCorrelation(samples, Float32Array.of(2, 4, 5, 4, 5, -1, 3), 5);
    expect(ncc[7]).toBeCloseTo(6 / Math.sqrt(60), 6);
    expect([ncc[8], ncc[0]]).toEqual([NaN, NaN]);
    expect(blockCorrelation(samples, Float32Array.of(2, 4, 5, 4, 5, -1, 3), 6).ncc[7]).toBeNaN();
  });
  it('is −1 for the opposite, and next to nothing for what is flat', () => {
    const samples = listed([1, 2, 3, 4, 5], [0, 0, 0, 0, 0]);
    expect(blockCorrelation(samples, Float32Array.of(5, 4, 3, 2, 1), 5).ncc[0]).toBeCloseTo(-1, 6);
    expect(blockCorrelation(samples, Float32Array.of(3, 3, 3, 3, 3), 5).ncc[0]).toBeCloseTo(0, 6);
  });
  it('asks for ten samples unless told otherwise', () => {
    const of = (n: number) => {
      const luma = Array.from({ length: n }, (_, i) => i / 10);
      return blockCorrelation(
        listed(
          luma,
          luma.map(() => 0),
        ),
        Float32Array.from(luma),
      ).ncc[0]!;
    };
    expect([of(9), of(10)]).toEqual([NaN, expect.closeTo(1, 6)]);
  });
});

describe('reading samples', () => {
  const at = (x: number, y: number, level = 0): Samples => ({
    ...listed([0], [0]),
    level,
    x: Float64Array.of(x),
    y: Float64Array.of(y),
  });
  const pyramid = [
    { width: 8, height: 6, luma: Float32Array.from({ length: 48 }, (_, i) => (i % 8) + 10 * Math.floor(i / 8)) },
    { width: 4, height: 3, luma: Float32Array.from({ length: 12 }, (_, i) => 100 + (i % 4) + 10 * Math.floor(i / 4)) },
  ];
  const read = (samples: Samples, h: Homography = STILL) => {
    const out = new Float32Array(1);
    readSamples(out, samples, pyramid, h);
    return out[0];
  };
  it('is bilinear between pixel centres', () => {
    expect(read(at(2.5, 3.5))).toBe(32);
    expect(read(at(2.75, 3.75))).toBeCloseTo(32.25 + 2.5, 5);
  });
  it('goes through perspective', () => {
    // (3, 2) → (3 + 1, 2)/(1 + 0.1·3) = (3.0769, 1.5385)
    expect(read(at(3, 2), [1, 0, 1, 0, 1, 0, 0.1, 0, 1])).toBeCloseTo(4 / 1.3 - 0.5 + 10 * (2 / 1.3 - 0.5), 4);
    expect(read(at(3, 2), [1, 0, 1, 0, 1, 0, 0, 0.1, 1])).toBeCloseTo(4 / 1.2 - 0.5 + 10 * (2 / 1.2 - 0.5), 4);
  });
  it('of a smaller level takes places in full-size pixels', () => {
    expect(read(at(3, 3, 1))).toBe(100 + 1 + 10);
  });
  it('is −1 off the picture, and right up to the last whole pixel on it', () => {
    expect([at(0.4, 3), at(3, 0.4), at(7.5, 3), at(3, 5.5)].map((s) => read(s))).toEqual([-1, -1, -1, -1]);
    expect([at(0.5, 0.5), at(7.4, 5.4)].map((s) => read(s))).toEqual([0, expect.closeTo(6.9 + 49, 4)]);
  });
});

it('the true motion agrees better than any other, up to 1', () => {
  const to = pictureOf(after(motion, own));
  const score = (h: Homography) => agreement(template, template.coarse, to, h);
  expect(score(motion)).toBeGreaterThan(0.97);
  expect(score(motion)).toBeLessThanOrEqual(1.000001);
  for (const h of [STILL, [1, 0, -2, 0, 1, 3, 0, 0, 1] as Homography])
    expect(score(h)).toBeLessThan(score(motion) - 0.05);
  expect(score([1, 0, 900, 0, 1, 0, 0, 0, 1])).toBe(0);
});
