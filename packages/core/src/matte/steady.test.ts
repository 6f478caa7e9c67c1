import { expect, it } from 'vitest';
import { seededRandom } from '../track/random.ts';
import { FLEX_NODES } from '../track/flex.ts';
import type { Homography, Quad } from '../track/homography.ts';
import { pyramidOf } from '../track/pyramid.ts';
import { placementAbout, placementMap } from '../shape/placement.ts';
import { slipOf, slipReference } from './slip.ts';
import { chatterBetween } from './chatter.ts';
import { carriedBy, carriedMatte } from './carriedMatte.ts';
import { motionBetween, steadied, type Moment } from './steady.ts';

const [W, H, R] = [240, 180, 45];
/** Smooth noise: a grid of random values, bilinear between. */
function texture(seed: number, cell: number): (x: number, y: number) => number {
  const random = seededRandom(seed);
  const n = 128;
  const grid = Float32Array.from({ length: n * n }, () => random());
  return (x, y) => {
    const [u, v] = [(((x / cell) % n) + n) % n, (((y / cell) % n) + n) % n];
    const [i, j] = [u | 0, v | 0];
    const at = (a: number, b: number) => grid[(b % n) * n + (a % n)]!;
    const [fx, fy] = [u - i, v - j];
    return (
      (1 - fy) * ((1 - fx) * at(i, j) + fx * at(i + 1, j)) + fy * ((1 - fx) * at(i, j + 1) + fx * at(i + 1, j + 1))
    );
  };
}
const [piece, ground] = [texture(1, 5), texture(2, 7)];
/** A textured disc that goes 7 px right and 3 px up a frame over a ground that goes the other way. */
const centreOf = (t: number) => ({ x: 90 + 7 * t, y: 100 - 3 * t });
const disc = (t: number, radius = R, dx = 0): Float32Array => {
  const { x: cx, y: cy } = centreOf(t);
  return Float32Array.from({ length: W * H }, (_, i) =>
    Math.min(Math.max(radius + 0.5 - Math.hypot((i % W) + 0.5 - cx - dx, Math.floor(i / W) + 0.5 - cy), 0), 1),
  );
};
function moment(t: number, alpha = disc(t), blank = false): Moment {
  const { x: cx, y: cy } = centreOf(t);
  const cover = disc(t);
  const luma = Float32Array.from({ length: W * H }, (_, i) => {
    const [x, y] = [(i % W) + 0.5, Math.floor(i / W) + 0.5];
    return cover[i]! * (blank ? 0.4 : piece(x - cx, y - cy)) + (1 - cover[i]!) * (blank ? 0.4 : ground(x + 5 * t, y));
  });
  return { width: W, height: H, alpha, luma: pyramidOf(luma, W, H) };
}
const meanDifference = (a: Float32Array, b: Float32Array) =>
  a.reduce((s, v, i) => s + Math.abs(v - b[i]!), 0) / (2 * Math.PI * R);

it('tells the motion of the piece, not of what lies behind it', () => {
  const found = motionBetween(moment(3), moment(4))!;
  expect(found.motion[2]).toBeCloseTo(7, 0);
  expect(found.motion[5]).toBeCloseTo(-3, 0);
});
it('goes by the outline where the surface is blank, and leaves out what it cannot tell', () => {
  const found = motionBetween(moment(3, disc(3), true), moment(4, disc(4), true));
  if (found) expect(Math.hypot(found.motion[2] - 7, found.motion[5] + 3)).toBeLessThan(4);
  expect(motionBetween(moment(3, new Float32Array(W * H)), moment(4, new Float32Array(W * H)))).toBeUndefined();
});

it('takes out what differs on one frame: an edge that jumps out by 3 px, a hole', () => {
  const bad = disc(3, R + 3);
  const { x: cx, y: cy } = centreOf(3);
  for (let i = 0; i < bad.length; i++) if (Math.hypot((i % W) - cx - 8, Math.floor(i / W) - cy) < 9) bad[i] = 0;
  const out = steadied(moment(3, bad), [moment(2), moment(4)]);
  const before = meanDifference(bad, disc(3));
  expect(before).toBeGreaterThan(3);
  // pixels of edge; what is left is the bilinear carrying of the outline
  expect(meanDifference(out, disc(3))).toBeLessThan(0.25);
});
it('brings back a matte that drops out altogether on one frame', () => {
  expect(meanDifference(steadied(moment(3, new Float32Array(W * H)), [moment(2), moment(4)]), disc(3))).toBeLessThan(
    0.3,
  );
});
it('leaves a steady matte of a moving piece as it is, to a few hundredths of a pixel of edge', () => {
  expect(meanDifference(steadied(moment(3), [moment(1), moment(2), moment(4), moment(5)]), disc(3))).toBeLessThan(0.06);
});
it('keeps what comes for good as sharp in time as it was', () => {
  const out = steadied(moment(3, disc(3, R + 4)), [moment(2), moment(4, disc(4, R + 4))]);
  expect(meanDifference(out, disc(3, R + 4))).toBeLessThan(0.12);
});
it('changes nothing at the end of a shot, where only one neighbour is known', () => {
  const bad = disc(3, R + 3);
  const out = steadied(moment(3, bad), [moment(2)]);
  expect(out).toEqual(bad);
});

it('gives a chatter that is next to none for a steady matte and grows with the flicker of its edge', () => {
  const at = (px: number) => chatterBetween(moment(2), moment(3, disc(3, R + px)), 1)!;
  expect(at(0)).toBeLessThan(0.03);
  const [small, large] = [at(0.5), at(2)];
  expect(small).toBeGreaterThan(0.05);
  expect(large).toBeGreaterThan(2 * small);
  // 2 px of full difference in a band of 3 px to either side of outlines 2 px apart
  expect(large).toBeGreaterThan(0.15);
  expect(large).toBeLessThan(0.35);
});

it('gives the slip of a matte against a track, whatever the motion, with part of it covered', () => {
  const motion = placementMap({
    ...placementAbout(90, 100),
    moveX: 28,
    moveY: -12,
    turnDeg: 9,
    scaleX: 1.1,
    scaleY: 1.1,
  });
  const carried = (slide: number) => {
    const [a, b, c, d, e, f] = motion;
    const det = a * e - b * d;
    return Float32Array.from({ length: W * H }, (_, i) => {
      const [x, y] = [(i % W) + 0.5 - c, Math.floor(i / W) + 0.5 - f];
      const [u, v] = [(e * x - b * y) / det - slide, (a * y - d * x) / det];
      return Math.min(Math.max(R + 0.5 - Math.hypot(u - 90, v - 100), 0), 1);
    });
  };
  const at0 = slipReference(disc(0), W, H, 1);
  for (const slide of [0, 0.8, 3]) {
    const found = slipOf(at0, carried(slide), motion)!;
    expect(found.dx).toBeCloseTo(slide, 1);
    expect(Math.abs(found.dy)).toBeLessThan(0.05);
  }
  const covered = carried(2).map((v, i) => (i % W < 95 ? 0 : v));
  // the cover's own edge pulls at it: still within a pixel with two fifths of the piece gone
  expect(Math.abs(slipOf(at0, covered, motion)!.dx - 2)).toBeLessThan(1);
  expect(slipOf(at0, new Float32Array(W * H), motion)).toBeUndefined();
});

it('measures chatter in a band of 3 px of the full picture round the outline, and so alike at half size', () => {
  const half = (t: number, px: number) => {
    const { width, height, alpha, luma } = moment(t, disc(t, R + px));
    const [w, h] = [width >> 1, height >> 1];
    const mean = (plane: Float32Array) =>
      Float32Array.from({ length: w * h }, (_, i) => {
        const at = 2 * Math.floor(i / w) * width + 2 * (i % w);
        return (plane[at]! + plane[at + 1]! + plane[at + width]! + plane[at + width + 1]!) / 4;
      });
    return { width: w, height: h, alpha: mean(alpha), luma: pyramidOf(mean(luma[0]!.luma), w, h) };
  };
  const full = chatterBetween(moment(2), moment(3, disc(3, R + 2)), 1)!;
  const small = chatterBetween(half(2, 0), half(3, 2), 0.5)!;
  expect(small / full).toBeGreaterThan(0.7);
  expect(small / full).toBeLessThan(1.3);
});

it('a matte is carried the same whether or not the rest of the picture is looked at', () => {
  const motion = motionBetween(moment(3), moment(5))!;
  const alpha = disc(5);
  const everywhere = alpha.map((a) => Math.max(a, 1e-30));
  const [own, whole] = [alpha, everywhere].map((each) => carriedMatte(motion, each, W, H));
  expect(own!.some((v) => v > 0.9) && own!.some((v) => v < 0)).toBe(true);
  expect(own!.map((v, i) => (Math.abs(v - whole![i]!) > 1e-20 ? 1 : 0)).some((off) => off > 0)).toBe(false);
});

it('a matte is carried by the kernel as sample by sample, to the bit, turned, bent and off the picture', () => {
  const random = seededRandom(5);
  const quad: Quad = [
    [20, 20],
    [70, 20],
    [70, 60],
    [20, 60],
  ];
  for (let round = 0; round < 24; round++) {
    const [width, height] = [60 + Math.floor(40 * random()), 50 + Math.floor(40 * random())];
    const alpha = Float32Array.from({ length: width * height }, (_, i) =>
      i % width > 22 && i % width < 50 && i > 12 * width && i < 40 * width ? random() : 0,
    );
    const off = (size: number) => size * (random() - 0.5);
    const motion: Homography = [
      1 + off(0.2),
      off(0.2),
      off(60),
      off(0.2),
      1 + off(0.2),
      off(60),
      off(4e-4),
      off(4e-4),
      1,
    ];
    const flex = round % 2 === 0 ? undefined : Array.from({ length: 2 * FLEX_NODES ** 2 }, () => off(5));
    const carried = carriedMatte({ motion, flex, quad }, alpha, width, height);
    expect(carried).toEqual(carriedBy({ motion, flex, quad }, alpha, width, height));
  }
});
