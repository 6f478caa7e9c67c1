// The generators of the projective group about a region's middle, and least squares with them.
import { describe, expect, it } from 'vitest';
import { compose, inverted, project, STILL, type Homography } from './homography.ts';
import { composedInverse, MotionModel, squaredError } from './motionModel.ts';
import type { Freedom } from '../document/motion.ts';

const NONE: Freedom = { move: false, turn: false, scale: false, shear: false, perspective: false };
const ALL: Freedom = { move: true, turn: true, scale: true, shear: true, perspective: true };
const only = (kind: keyof Freedom) => new MotionModel({ ...NONE, [kind]: true }, 100, 60, 50);
const all = new MotionModel(ALL, 100, 60, 50);

describe('one step of each kind, about (100, 60), half size 50', () => {
  // each place worked by hand: u = (x − 100)/50, v = (y − 60)/50
  it.each([
    ['move', [0.1, 0], [150, 110], [155, 110]],
    ['move', [0, 0.1], [150, 110], [150, 115]],
    ['turn', [0.1], [150, 60], [150, 65]],
    ['turn', [0.1], [100, 110], [95, 110]],
    ['scale', [0.1], [150, 110], [155, 115]],
    ['shear', [0.1, 0], [150, 110], [155, 105]],
    ['shear', [0, 0.1], [150, 60], [150, 65]],
    ['shear', [0, 0.1], [100, 110], [105, 110]],
    // (1, 1)/(1 − 0.1·1)
    ['perspective', [0.1, 0], [150, 110], [100 + 50 / 0.9, 60 + 50 / 0.9]],
    ['perspective', [0, 0.1], [100, 110], [100, 60 + 50 / 0.9]],
    ['perspective', [0, 0.1], [150, 60], [150, 60]],
  ] as const)('%s %j takes %j to %j', (kind, p, [x, y], [u, v]) => {
    const [px, py] = project(only(kind).step(p), x, y);
    expect(px).toBeCloseTo(u, 9);
    expect(py).toBeCloseTo(v, 9);
  });
  it('has the velocity that small steps show', () => {
    const flow = new Float64Array(16);
    for (const [x, y] of [
      [150, 110],
      [70, 20],
      [100, 60],
      [131, 44],
    ] as const) {
      all.flowInto(flow, x, y);
      for (let k = 0; k < 8; k++) {
        const p = new Float64Array(8);
        p[k] = 1e-5;
        const [u, v] = project(all.step(p), x, y);
        expect((u - x) / 1e-5).toBeCloseTo(flow[2 * k]!, 2);
        expect((v - y) / 1e-5).toBeCloseTo(flow[2 * k + 1]!, 2);
      }
    }
  });
  it('counts its kinds, and leaves a move alone unhindered', () => {
    expect((['move', 'turn', 'scale', 'shear', 'perspective'] as const).map((k) => only(k).size)).toEqual([
      2, 1, 1, 2, 2,
    ]);
    expect(all.usualChange).toEqual([Infinity, Infinity, 0.05, 0.05, 0.01, 0.01, 0.006, 0.006]);
    expect(only('shear').usualChange).toEqual([0.01, 0.01]);
  });
});

describe('fitting', () => {
  const from = Float64Array.of(60, 30, 140, 25, 150, 95, 55, 90, 100, 60);
  const every = [0, 1, 2, 3, 4];
  it('a move is the mean way of the points, by their weights where they have some', () => {
    const move = only('move');
    const to = from.map((v, i) => v + (i % 2 ? 0 : [2, 4, 6, 8, 10][i / 2]!));
    expect(move.fit(STILL, from, to, undefined, every, 3)![2]).toBeCloseTo(6, 6);
    expect(move.fit(STILL, from, to, undefined, [0, 1], 3)![2]).toBeCloseTo(3, 6);
    expect(move.fit(STILL, from, to, [3, 1, 0, 0, 0], every, 3)![2]).toBeCloseTo(2.5, 6);
  });
  it('of the distances in the target frame: twice as large there, twice as much counted', () => {
    // a scale fixed by two points at ±50 of the middle, one pulled by 10 outwards: half of it each way is left
    const scale = only('scale');
    const found = scale.fit(STILL, [150, 60, 50, 60], [160, 60, 50, 60], undefined, [0, 1], 6)!;
    expect(found[0]).toBeCloseTo(1.1, 4);
  });
  it('finds a full projective motion in a few rounds, from where it starts', () => {
    const truth: Homography = [1.1, 0.05, -4, -0.03, 0.95, 6, 0.0005, -0.0003, 1];
    const to = Float64Array.from(from);
    for (let i = 0; i < 5; i++) to.set(project(truth, from[2 * i]!, from[2 * i + 1]!), 2 * i);
    const errorOf = (rounds: number, start = STILL) => {
      const h = all.fit(start, from, to, undefined, every, rounds)!;
      return Math.max(...every.map((i) => squaredError(h, from[2 * i]!, from[2 * i + 1]!, to[2 * i]!, to[2 * i + 1]!)));
    };
    expect(errorOf(8)).toBeLessThan(1e-12);
    expect(errorOf(1)).toBeGreaterThan(1e-4);
    expect(errorOf(0, truth)).toBeLessThan(1e-18);
  });
  it('fails where points lie too far for one step to be believed', () => {
    const to = from.map((v) => v + 400);
    expect(only('move').fit(STILL, from, to, undefined, every, 5)).toBeUndefined();
  });
});

it('what was stepped is taken off on the side of the reference frame', () => {
  const h: Homography = [1.2, 0.1, 5, 0, 0.9, -3, 0.001, 0, 1];
  const step = all.step([0.02, -0.01, 0.03, 0.01, 0, 0.02, 0.01, 0]);
  const left = composedInverse(h, step);
  const back = compose(left, step);
  back.forEach((v, i) => expect(v).toBeCloseTo(h[i]!, 9));
  expect(project(left, ...project(step, 80, 40))[0]).toBeCloseTo(project(h, 80, 40)[0], 9);
  expect(project(compose(inverted(h), h), 7, 9)[1]).toBeCloseTo(9, 9);
});
it('a squared error is that of both axes', () => {
  expect(squaredError([1, 0, 3, 0, 1, 0, 0, 0, 1], 10, 10, 10, 14)).toBe(25);
});
