// Small patches on textures made here: followed, turned and grown, given up and found again.
import { describe, expect, it } from 'vitest';
import type { Freedom } from '../document/motion.ts';
import { boxMask, pyramidOfLook, texture, type Look } from '../testing/texture.ts';
import { project } from './homography.ts';
import { PATCH_PX, PatchTracker } from './patchTracker.ts';
import { PlaneTracker } from './planeTracker.ts';
import { trackerFor } from './regionTracker.ts';

const [W, H] = [160, 120];
const frame = (look: Look) => pyramidOfLook(look, W, H);
const MOVE: Freedom = { move: true, turn: false, scale: false, shear: false, perspective: false };
const SIMILAR: Freedom = { ...MOVE, turn: true, scale: true };
const [own, ground] = [texture(3), texture(8)];
const [CX, CY] = [60, 50];
const patch = (size: number) => boxMask(W, H, CX - size / 2, CY - size / 2, CX + size / 2, CY + size / 2);
/** A square of a texture at a place before a ground that stands, turned and grown about its middle. */
const scene = (size: number, x: number, y: number, turn = 0, grown = 1): Look => {
  const [c, s] = [Math.cos(turn) / grown, Math.sin(turn) / grown];
  return (px, py) => {
    const [u, v] = [c * (px - x) + s * (py - y), -s * (px - x) + c * (py - y)];
    return Math.max(Math.abs(u), Math.abs(v)) <= size / 2 ? own(CX + u, CY + v) : ground(px, py);
  };
};
const middle = (motion: Parameters<typeof project>[0]) => project(motion, CX, CY);

describe('a small patch', () => {
  it.each([12, 16, 24, 40])('of %i pixels is followed over a ground that stands, to a tenth of a pixel', (size) => {
    const tracker = new PatchTracker(frame(scene(size, CX, CY)), patch(size), undefined, MOVE);
    for (let t = 1; t <= 8; t++) {
      const found = tracker.step(frame(scene(size, CX + 4.3 * t, CY + 1.2 * t)));
      const [x, y] = middle(found.motion);
      expect(found.lost).toBeUndefined();
      expect(Math.hypot(x - CX - 4.3 * t, y - CY - 1.2 * t)).toBeLessThan(0.1);
      expect(found.confidence).toBeGreaterThan(0.8);
    }
  });
  it('is turned and grown with, where that is free', () => {
    const tracker = new PatchTracker(frame(scene(24, CX, CY)), patch(24), undefined, SIMILAR);
    let last: Parameters<typeof project>[0] = [1, 0, 0, 0, 1, 0, 0, 0, 1];
    for (let t = 1; t <= 10; t++) {
      const found = tracker.step(frame(scene(24, CX + 2 * t, CY, 0.03 * t, 1 + 0.02 * t)));
      expect(found.lost).toBeUndefined();
      last = found.motion;
    }
    expect(Math.atan2(last[3], last[0])).toBeCloseTo(0.3, 1);
    expect(Math.hypot(last[0], last[3])).toBeCloseTo(1.2, 1);
  });
  it('is given up while something hides it, and found again where it has gone meanwhile', () => {
    const tracker = new PatchTracker(frame(scene(16, CX, CY)), patch(16), undefined, MOVE);
    const at = (t: number) => scene(16, CX + 3 * t, CY);
    const post = texture(77);
    const hidden =
      (t: number): Look =>
      (x, y) =>
        Math.abs(x - CX - 3 * t) < 14 ? post(x, y) : at(t)(x, y);
    expect([1, 2].map((t) => tracker.step(frame(at(t))).lost)).toEqual([undefined, undefined]);
    expect([3, 4].map((t) => tracker.step(frame(hidden(t))).lost)).toEqual(['covered', 'covered']);
    const again = tracker.resume(frame(at(7)), [1, 0, 14, 0, 1, 0, 0, 0, 1]);
    expect(again.lost).toBeUndefined();
    expect(middle(again.motion)[0]).toBeCloseTo(CX + 21, 0);
  });
  it('is given up when it leaves the picture, when it is held out, and when it is blank', () => {
    const tracker = new PatchTracker(frame(scene(16, CX, CY)), patch(16), undefined, MOVE);
    const path = Array.from({ length: 12 }, (_, t) => tracker.step(frame(scene(16, CX, CY - 6 * (t + 1)))).lost);
    expect([path[0], path.find((lost) => lost !== undefined)]).toEqual([undefined, 'left the picture']);
    const other = new PatchTracker(frame(scene(16, CX, CY)), patch(16), undefined, MOVE);
    expect(other.step(frame(scene(16, CX, CY)), patch(30)).lost).toBe('covered');
    const blank = new PatchTracker(
      frame(() => 0.5),
      patch(16),
      undefined,
      MOVE,
    );
    expect(blank.step(frame(() => 0.5)).lost).toBe('no texture');
  });
  it('follows through light that changes', () => {
    const tracker = new PatchTracker(frame(scene(16, CX, CY)), patch(16), undefined, MOVE);
    const lit =
      (t: number): Look =>
      (x, y) =>
        0.1 + 0.6 * scene(16, CX + 2 * t, CY)(x, y);
    const found = [1, 2, 3].map((t) => tracker.step(frame(lit(t))));
    expect(found.at(-1)!.lost).toBeUndefined();
    expect(middle(found.at(-1)!.motion)[0]).toBeCloseTo(CX + 6, 1);
  });
});

it('a region is followed as a patch where it is small, as a plane where it is not or bends', () => {
  const reference = frame(own);
  const small = patch(PATCH_PX);
  expect(trackerFor(reference, small, undefined, MOVE)).toBeInstanceOf(PatchTracker);
  expect(trackerFor(reference, patch(PATCH_PX + 4), undefined, MOVE)).toBeInstanceOf(PlaneTracker);
  expect(trackerFor(reference, small, undefined, { ...MOVE, flex: true })).toBeInstanceOf(PlaneTracker);
});
