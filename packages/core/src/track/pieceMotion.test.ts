// How a piece moves between two frames, by what lies inside its matte, on textures whose motion is known.
import { describe, expect, it } from 'vitest';
import type { Homography } from './homography.ts';
import { pieceMotion, placeAfter } from './pieceMotion.ts';
import { after, boxMask, pictureOf, pyramidOfLook, texture, type Look } from '../testing/texture.ts';
import { pyramidOf } from './pyramid.ts';

const [W, H] = [220, 170];
const [own, ground] = [texture(41), texture(42)];
const { inside } = boxMask(W, H, 50, 40, 170, 130);
const alpha = Float32Array.from(inside);
const never = (): never => {
  throw new Error('the outlines are not needed');
};
/** The piece, moved, before a ground that moves otherwise. */
const scene = (h: Homography, groundX: number, bend: (y: number) => number = () => 0): Look => {
  const moved = after(h, (x, y) => own(x - bend(y), y));
  const mask = after(h, (x, y) => (x >= 50 && x < 170 && y >= 40 && y < 130 ? 1 : 0));
  return (x, y) => (mask(x, y) > 0.5 ? moved(x, y) : ground(x - groundX, y));
};
const still = pyramidOfLook(scene([1, 0, 0, 0, 1, 0, 0, 0, 1], 0), W, H);
const errorAt = (found: ReturnType<typeof pieceMotion>, h: Homography, x: number, y: number, bend = 0) => {
  const [u, v] = placeAfter(found!, x, y);
  const [bx, by] = [x + bend, y];
  const w = h[6] * bx + h[7] * by + h[8];
  return Math.hypot(u - (h[0] * bx + h[1] * by + h[2]) / w, v - (h[3] * bx + h[4] * by + h[5]) / w);
};

describe('the motion of a piece', () => {
  const h: Homography = [1.01, -0.03, 4, 0.03, 1, -2, 0, 0, 1];
  it('is that inside its matte, whatever its surroundings do', () => {
    const found = pieceMotion(still, pyramidOfLook(scene(h, -6), W, H), alpha, never);
    expect(found!.quad).toEqual([
      [50, 40],
      [170, 40],
      [170, 130],
      [50, 130],
    ]);
    for (const [x, y] of [
      [60, 50],
      [160, 120],
      [110, 85],
    ] as const)
      expect(errorAt(found, h, x, y)).toBeLessThan(0.25);
  });
  it('bends with the piece', () => {
    const bend = (y: number) => 2 * Math.sin((y - 40) / 20);
    const found = pieceMotion(still, pyramidOfLook(scene(h, 0, bend), W, H), alpha, never);
    for (const y of [55, 70, 85, 100, 115]) expect(errorAt(found, h, 110, y, bend(y))).toBeLessThan(0.6);
    const plain = { ...found!, flex: undefined };
    expect(Math.max(...[55, 70, 85, 100, 115].map((y) => errorAt(plain, h, 110, y, bend(y))))).toBeGreaterThan(1);
  });
  it('of a plain surface is that of its outline', () => {
    const flat = pyramidOf(new Float32Array(W * H).fill(0.4), W, H);
    // an outline with corners to hold on to: battlements along its top
    const isInside = (x: number, y: number) =>
      x > 60 && x < 160 && y > 50 && y < 120 && !(Math.floor(x / 14) % 2 === 0 && y < 70);
    const outline = (dx: number, dy: number) =>
      pyramidOf(
        pictureOf((x, y) => (isInside(x - dx, y - dy) ? 1 : 0), W, H),
        W,
        H,
      );
    const found = pieceMotion(flat, flat, alpha, () => ({ from: outline(0, 0), to: outline(3, 2) }));
    expect(found!.flex).toBeUndefined();
    const [x, y] = placeAfter(found!, 110, 85);
    expect(Math.hypot(x - 113, y - 87)).toBeLessThan(0.3);
  });
  it('is not told where there is no piece, or nothing to go by', () => {
    const flat = pyramidOf(new Float32Array(W * H).fill(0.4), W, H);
    expect(pieceMotion(still, still, new Float32Array(W * H), never)).toBeUndefined();
    expect(pieceMotion(still, still, Float32Array.from(boxMask(W, H, 50, 40, 53, 90).inside), never)).toBeUndefined();
    expect(pieceMotion(still, still, Float32Array.from(boxMask(W, H, 50, 40, 90, 43).inside), never)).toBeUndefined();
    expect(pieceMotion(flat, flat, alpha, () => ({ from: flat, to: flat }))).toBeUndefined();
    // the piece was replaced by something else
    const other = pyramidOfLook(texture(43), W, H);
    expect(pieceMotion(still, other, alpha, () => ({ from: flat, to: flat }))).toBeUndefined();
  });
});
