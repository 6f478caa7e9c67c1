// The tracker on textures made here: that it follows, that it gives up, that it believes the bend it sees.
import { describe, expect, it } from 'vitest';
import type { Freedom } from '../document/motion.ts';
import { flexAt } from './flex.ts';
import { compose, project, projectQuad, type Homography, type Quad } from './homography.ts';
import { PlaneTracker } from './planeTracker.ts';
import { after, boxMask, pyramidOfLook, texture, type Look } from '../testing/texture.ts';

const [W, H] = [240, 180];
const frame = (look: Look) => pyramidOfLook(look, W, H);
const region = boxMask(W, H, 70, 50, 170, 130);
const MOVE: Freedom = { move: true, turn: false, scale: false, shear: false, perspective: false };
const own = texture(1);
/** The same, three times as large. */
const slow: Look = (x, y) => own(x / 3, y / 3);
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
  it('is given up when nearly all of it is covered, or when most is and the rest does not go on as before', () => {
    const other = texture(99);
    const coveredFrom = (x0: number, t: number) => frame((x, y) => (x > x0 ? other(x, y) : own(x - t, y)));
    const behind = (x0: number, dx = 2) => {
      const tracker = new PlaneTracker(moved(0, 0), region, undefined, MOVE);
      tracker.step(moved(1, 0));
      const { lost, motion } = tracker.step(coveredFrom(x0, dx));
      return lost ?? Math.abs(motion[2] - dx) < 0.2;
    };
    // four fifths, a good fifth and a tenth of it are seen
    expect([behind(150), behind(92), behind(80)]).toEqual([true, true, 'covered']);
    expect(behind(92, 8)).toBe('covered');
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

const ALL: Freedom = { move: true, turn: true, scale: true, shear: true, perspective: true };
const corners: Quad = [
  [70, 50],
  [170, 50],
  [170, 130],
  [70, 130],
];
/** The largest distance of a corner of the region from where it truly lies, pixels. */
const cornerError = (found: Homography, truth: Homography): number =>
  Math.max(
    ...projectQuad(found, corners).map((p, i) => {
      const q = projectQuad(truth, corners)[i]!;
      return Math.hypot(p[0] - q[0], p[1] - q[1]);
    }),
  );
const shift = (x: number, y: number): Homography => [1, 0, x, 0, 1, y, 0, 0, 1];
/** A motion about the region's middle. */
const about = (h: Homography): Homography => compose(shift(120, 90), compose(h, shift(-120, -90)));
const turned = (deg: number, scale = 1): Homography => {
  const [c, s] = [Math.cos((deg * Math.PI) / 180) * scale, Math.sin((deg * Math.PI) / 180) * scale];
  return about([c, -s, 0, s, c, 0, 0, 0, 1]);
};

describe('every kind of motion', () => {
  const followed = (truthAt: (t: number) => Homography, frames: number, freedom = ALL, look = own) => {
    const tracker = new PlaneTracker(frame(look), region, undefined, freedom);
    return Array.from({ length: frames }, (_, i) => {
      const truth = truthAt(i + 1);
      const step = tracker.step(frame(after(truth, look)));
      return { ...step, error: cornerError(step.motion, truth) };
    });
  };
  it('a turn of 2° a frame', () => {
    for (const { error, lost, confidence } of followed((t) => turned(2 * t), 8))
      expect([lost, error < 0.1, confidence > 0.7]).toEqual([undefined, true, true]);
  });
  it('nearer and away, to half and twice the size, through a new look of its own', () => {
    for (const ratio of [1.06, 1 / 1.06]) {
      const steps = followed((t) => turned(0, ratio ** t), 14, ALL, slow);
      for (const [t, { error, lost }] of steps.entries())
        expect([ratio, t, lost, error < 0.5]).toEqual([ratio, t, undefined, true]);
    }
  });
  it('perspective and shear', () => {
    const truth = (t: number) => about([1 + 0.01 * t, 0.02 * t, 1.5 * t, -0.01 * t, 1, -t, 0.0002 * t, -0.0001 * t, 1]);
    for (const { error, lost } of followed(truth, 6)) expect([lost, error < 0.15]).toEqual([undefined, true]);
  });
  it('what it is not free to do it does not do', () => {
    const steps = followed((t) => turned(t), 2, MOVE);
    for (const { motion } of steps) expect([motion[0], motion[1], motion[3], motion[4]]).toEqual([1, 0, 0, 1]);
  });
  it('through a change of light: brighter by half, and lifted', () => {
    const tracker = new PlaneTracker(moved(0, 0), region, undefined, MOVE);
    for (const t of [1, 2, 3, 4]) {
      const lit = frame((x, y) => (1 + 0.125 * t) * own(x - 2 * t, y + t) + 0.02 * t);
      const { motion, lost, confidence } = tracker.step(lit);
      expect(lost).toBeUndefined();
      expect(confidence).toBeGreaterThan(0.8);
      expect(Math.hypot(motion[2] - 2 * t, motion[5] + t)).toBeLessThan(0.05);
    }
  });
  it('a jump from one frame to the next: a turn of 26° and a fifth smaller, over something that stands still', () => {
    const other = texture(7);
    const truth = turned(26, 0.8);
    const jumped = after(truth, own);
    const here: Look = (x, y) => (Math.hypot(x - 120, y - 90) < 75 ? jumped(x, y) : other(x, y));
    const tracker = new PlaneTracker(frame(own), region, undefined, ALL);
    const { motion, lost } = tracker.step(frame(here));
    expect([lost, cornerError(motion, truth) < 0.3]).toEqual([undefined, true]);
  });
  it('what goes on as before is found far from where it last was: 20 pixels a frame', () => {
    const tracker = new PlaneTracker(
      frame((x, y) => own(x + 40, y)),
      boxMask(W, H, 20, 50, 90, 130),
      undefined,
      MOVE,
    );
    for (const dx of [3, 9, 18, 30, 45, 64, 84]) {
      const { motion, lost } = tracker.step(frame((x, y) => own(x + 40 - dx, y)));
      expect([lost, Math.abs(motion[2] - dx) < 0.1]).toEqual([undefined, true]);
    }
  });
});

describe('something in front', () => {
  const other = texture(99);
  /** The region moves right by 2 a frame; a column of 20 pixels' width crosses it leftwards by 7 a frame. */
  const crossed = (t: number): Look => {
    const x0 = 175 - 7 * t;
    return (x, y) => (x >= x0 && x < x0 + 20 ? other(x - x0, y) : own(x - 2 * t, y));
  };
  it('that crosses does not take the region along', () => {
    const tracker = new PlaneTracker(frame(crossed(0)), region, undefined, ALL);
    const confidences = Array.from({ length: 20 }, (_, i) => {
      const { motion, lost, confidence } = tracker.step(frame(crossed(i + 1)));
      expect([i, lost, cornerError(motion, [1, 0, 2 * (i + 1), 0, 1, 0, 0, 0, 1]) < 0.5]).toEqual([i, undefined, true]);
      return confidence;
    });
    // it says less is seen while a fifth of the region is covered, and says so no longer afterwards
    expect(Math.min(...confidences)).toBeLessThan(0.9);
    expect(Math.min(...confidences)).toBeGreaterThan(0.6);
    expect(confidences.at(-1)!).toBeGreaterThan(0.93);
  });
  it('that is held out is not looked at, on the reference frame and after it', () => {
    // half of the region shows something that moves the other way
    const look =
      (t: number): Look =>
      (x, y) =>
        x < 120 ? other(x + 3 * t, y) : own(x - t, y);
    const holdOut = (t: number) => boxMask(W, H, 60, 40, 121 + t, 140);
    const tracker = new PlaneTracker(frame(look(0)), region, holdOut(0), MOVE);
    for (const t of [1, 2, 3]) {
      const { motion, lost, confidence } = tracker.step(frame(look(t)), holdOut(t));
      expect([lost, confidence > 0.8]).toEqual([undefined, true]);
      expect(Math.hypot(motion[2] - t, motion[5])).toBeLessThan(0.05);
    }
  });
  it('lets it be found again near a guess, 14 pixels from it, when it has gone', () => {
    const tracker = new PlaneTracker(moved(0, 0), region, undefined, MOVE);
    expect(tracker.step(frame(other)).lost).toBe('covered');
    const guess: Homography = [1, 0, 10, 0, 1, -4, 0, 0, 1];
    const { motion, lost } = tracker.resume(moved(22, 3), guess);
    expect([lost, Math.hypot(motion[2] - 22, motion[5] - 3) < 0.05]).toEqual([undefined, true]);
    const next = tracker.step(moved(24, 3));
    expect([next.lost, Math.abs(next.motion[2] - 24) < 0.05]).toEqual([undefined, true]);
  });
  it('is not found again where it is not', () => {
    const tracker = new PlaneTracker(moved(0, 0), region, undefined, MOVE);
    const { lost, motion } = tracker.resume(frame(other), [1, 0, 5, 0, 1, 0, 0, 0, 1]);
    expect([lost, motion.length]).toEqual(['covered', 9]);
    // and the next frame is looked for from the guess on
    expect(tracker.step(moved(7, 0)).lost).toBeUndefined();
  });
});

it('a lost frame leaves the tracker where it was: the next is found', () => {
  const tracker = new PlaneTracker(moved(0, 0), region, undefined, MOVE);
  tracker.step(moved(1, 0));
  expect(tracker.step(frame(texture(99))).lost).toBe('covered');
  const { motion, lost } = tracker.step(moved(3, 0));
  expect([lost, Math.abs(motion[2] - 3) < 0.05]).toEqual([undefined, true]);
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
