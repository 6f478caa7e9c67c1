// The tracker on textures made here: that it follows, that it gives up, that it believes the bend it sees.
import { describe, expect, it } from 'vitest';
import type { Freedom } from '../document/motion.ts';
import { flexAt } from './flex.ts';
import { project } from './homography.ts';
import { PlaneTracker, type Mask } from './planeTracker.ts';
import { pyramidOf, type Pyramid } from './pyramid.ts';
import { seededRandom } from './random.ts';

const [W, H] = [240, 180];
/** Smooth random texture, luma 0..1, as a function of the place. */
function texture(seed: number): (x: number, y: number) => number {
  const random = seededRandom(seed);
  const waves = Array.from({ length: 60 }, () => {
    const [angle, length, phase] = [random() * Math.PI * 2, 6 + random() * 30, random() * 7];
    return [(2 * Math.PI * Math.cos(angle)) / length, (2 * Math.PI * Math.sin(angle)) / length, phase] as const;
  });
  return (x, y) => 0.5 + 0.05 * waves.reduce((sum, [u, v, p]) => sum + Math.sin(u * x + v * y + p), 0);
}
const frame = (luma: (x: number, y: number) => number): Pyramid =>
  pyramidOf(
    Float32Array.from({ length: W * H }, (_, i) => luma((i % W) + 0.5, Math.floor(i / W) + 0.5)),
    W,
    H,
  );
const region: Mask = {
  width: W,
  height: H,
  inside: Uint8Array.from({ length: W * H }, (_, i) => {
    const [x, y] = [i % W, Math.floor(i / W)];
    return x >= 70 && x < 170 && y >= 50 && y < 130 ? 1 : 0;
  }),
};
const MOVE: Freedom = { move: true, turn: false, scale: false, shear: false, perspective: false };
const own = texture(1);
const moved = (dx: number, dy: number) => frame((x, y) => own(x - dx, y - dy));

describe('a region with texture', () => {
  it('is followed to a twentieth of a pixel, and surely', () => {
    const tracker = new PlaneTracker(moved(0, 0), region, undefined, MOVE);
    for (const t of [1, 2, 3]) {
      const { motion, confidence, lost } = tracker.step(moved(2.3 * t, -1.6 * t));
      const [x, y] = project(motion, 120, 90);
      expect(Math.hypot(x - 120 - 2.3 * t, y - 90 + 1.6 * t)).toBeLessThan(0.05);
      expect([lost, confidence > 0.8]).toEqual([undefined, true]);
    }
  });
  it('is given up when something else has taken its place', () => {
    const tracker = new PlaneTracker(moved(0, 0), region, undefined, MOVE);
    expect(tracker.step(moved(1, 0)).lost).toBeUndefined();
    const other = texture(99);
    expect(tracker.step(frame(other)).lost).toBe('covered');
  });
  it('is given up when nearly all of it is covered, though the rest is still where it was', () => {
    const other = texture(99);
    const coveredFrom = (x0: number, t: number) => frame((x, y) => (x > x0 ? other(x, y) : own(x - t, y)));
    const lostBehind = (x0: number) => {
      const tracker = new PlaneTracker(moved(0, 0), region, undefined, MOVE);
      tracker.step(moved(1, 0));
      return tracker.step(coveredFrom(x0, 2)).lost;
    };
    expect([lostBehind(150), lostBehind(92)]).toEqual([undefined, 'covered']);
  });
  it('is given up when it has left the picture', () => {
    const tracker = new PlaneTracker(moved(0, 0), region, undefined, MOVE);
    const path = Array.from({ length: 30 }, (_, t) => tracker.step(moved(6 * (t + 1), 0)).lost);
    // 170 of 240 px: the region is wholly off the picture from frame 29 on
    expect([path[3], path.find((lost) => lost !== undefined)]).toEqual([undefined, 'left the picture']);
  });
  it('that is blank cannot be followed, and it is said why', () => {
    const tracker = new PlaneTracker(
      frame(() => 0.5),
      region,
      undefined,
      MOVE,
    );
    expect(tracker.step(frame(() => 0.5)).lost).toBe('no texture');
  });
});

it('the bend of a region is found, and believed', () => {
  const freedom: Freedom = { ...MOVE, flex: true };
  const bendAt = (y: number) => 3 * Math.sin((y - 50) / 25);
  const tracker = new PlaneTracker(moved(0, 0), region, undefined, freedom);
  const steps = [1 / 3, 2 / 3, 1].map((share) => tracker.step(frame((x, y) => own(x - share * bendAt(y), y))));
  const { flex, motion, lost } = steps.at(-1)!;
  expect(lost).toBeUndefined();
  expect(flex).toBeDefined();
  const quad = [
    [70, 50],
    [170, 50],
    [170, 130],
    [70, 130],
  ] as const;
  const errors = [60, 75, 90, 105, 120].map((y) => {
    const [dx] = flexAt(flex!, quad, 120, y);
    const [x] = project(motion, 120 + dx, y);
    return Math.abs(x - 120 - bendAt(y));
  });
  // unbent, the region would be off by up to 3 px
  expect(Math.max(...errors)).toBeLessThan(0.8);
});
