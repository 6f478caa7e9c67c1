import type { Geometry, PathPoint } from '../document/geometry.ts';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { sum } from '../testing/mattes.ts';
import {
  about,
  boundsOf,
  moveBy,
  movedGeometry,
  nearestOnPath,
  toggledCorner,
  turnAbout,
  withoutPoints,
} from './edit.ts';
import { bezier, withPointAdded } from './path.ts';
import { shapeMatteInto } from './shapeMatte.ts';

const corner = (x: number, y: number): PathPoint => ({ x, y, inX: 0, inY: 0, outX: 0, outY: 0 });
const square = [corner(20, 20), corner(60, 20), corner(60, 60), corner(20, 60)];
const leaf: PathPoint[] = [
  { x: 10, y: 10, inX: -5, inY: 8, outX: 12, outY: -6 },
  { x: 60, y: 20, inX: -10, inY: -10, outX: 4, outY: 22 },
  { x: 30, y: 70, inX: 20, inY: 0, outX: -25, outY: -3 },
];
const matte = (
  geometry: Geometry,
  feather = { innerPx: 0, outerPx: 0, falloff: 'linear' as const },
  scale = 1,
  w = 80,
  h = 80,
) => {
  const out = new Float32Array(w * h);
  shapeMatteInto(out, w, h, { geometry, feather }, scale);
  return out;
};

describe('moving geometry', () => {
  it('scales the area by the determinant: turn 1, scale k², shear 1', () => {
    const before = sum(matte({ form: 'spline', points: leaf }));
    const area = (m: Parameters<typeof movedGeometry>[1]) =>
      sum(matte(movedGeometry({ form: 'spline', points: leaf }, m)));
    expect(area(turnAbout(35, 35, 20))).toBeCloseTo(before, -0.5);
    expect(area(about(30, 30, [0.5, 0, 0, 0.5])) / before).toBeCloseTo(0.25, 2);
    expect(area(about(35, 35, [1, 0, 0.2, 1])) / before).toBeCloseTo(1, 2);
  });
  it(
    'keeps a rectangle a rectangle under moves, turns and even scales, and makes it a spline ' +
      'when sheared, with the same outline',
    () => {
      const box: Geometry = { form: 'rectangle', cx: 40, cy: 40, width: 30, height: 20, turnDeg: 10 };
      expect(movedGeometry(box, turnAbout(40, 40, 15))).toMatchObject({
        form: 'rectangle',
        cx: expect.closeTo(40, 9),
        cy: expect.closeTo(40, 9),
        width: expect.closeTo(30, 9),
        height: expect.closeTo(20, 9),
        turnDeg: expect.closeTo(25, 9),
      });
      expect(movedGeometry(box, about(0, 0, [2, 0, 0, 2]))).toMatchObject({
        form: 'rectangle',
        cx: 80,
        width: 60,
        turnDeg: 10,
      });
      const sheared = movedGeometry(box, about(40, 40, [1, 0, 0.3, 1]));
      expect(sheared.form).toBe('spline');
      expect(sum(matte(sheared))).toBeCloseTo(600, 1);
    },
  );
  it('moves only the points it is told to, and a gradient by both its ends', () => {
    const moved = movedGeometry({ form: 'spline', points: square }, moveBy(5, 0), new Set([1, 2]));
    expect(moved.form === 'spline' && moved.points.map((p) => p.x)).toEqual([20, 65, 65, 20]);
    expect(movedGeometry({ form: 'gradient', x0: 0, y0: 0, x1: 10, y1: 0 }, moveBy(1, 2))).toEqual({
      form: 'gradient',
      x0: 1,
      y0: 2,
      x1: 11,
      y1: 2,
    });
    expect(boundsOf({ form: 'spline', points: square }, new Set([0, 1]))).toEqual({ x0: 20, y0: 20, x1: 60, y1: 20 });
  });
});

describe('bounds', () => {
  const points = [
    [5, 40],
    [90, 7],
    [30, 60],
    [12, 22],
  ].map(([x, y]) => ({ x: x!, y: y!, inX: -50, inY: 0, outX: 50, outY: 0 }));
  const path: Geometry = { form: 'spline', points };
  it('are of the points without their handles, all of them or those listed', () => {
    expect(boundsOf(path)).toEqual({ x0: 5, y0: 7, x1: 90, y1: 60 });
    expect(boundsOf(path, new Set([2, 3]))).toEqual({ x0: 12, y0: 22, x1: 30, y1: 60 });
    expect(boundsOf(path, new Set())).toEqual(boundsOf(path));
    expect(boundsOf({ form: 'gradient', x0: 9, y0: 4, x1: 2, y1: 8 })).toEqual({ x0: 2, y0: 4, x1: 9, y1: 8 });
  });
});

describe('points', () => {
  it('finds the nearest place on a path, and a point added there keeps the curve to 1e-9', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 2 }),
        fc.double({ min: 0.02, max: 0.98, noNaN: true }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        (index, t, u) => {
          const [p, q] = [leaf[index]!, leaf[(index + 1) % 3]!];
          const on = (a: PathPoint, b: PathPoint, s: number) =>
            [
              bezier([a.x, a.x + a.outX, b.x + b.inX, b.x], s),
              bezier([a.y, a.y + a.outY, b.y + b.inY, b.y], s),
            ] as const;
          const [x, y] = on(p, q, t);
          expect(nearestOnPath(leaf, x, y)!.distance).toBeLessThan(1e-3);
          const more = withPointAdded(leaf, index, t);
          const [a, m, b] = [more[index]!, more[index + 1]!, more[(index + 2) % 4]!];
          // the first part at u is the whole at u·t, the second at t + u·(1 − t): de Casteljau
          for (const [part, whole] of [
            [on(a, m, u), on(p, q, u * t)],
            [on(m, b, u), on(p, q, t + u * (1 - t))],
          ] as const) {
            expect(Math.abs(part[0] - whole[0])).toBeLessThan(1e-9);
            expect(Math.abs(part[1] - whole[1])).toBeLessThan(1e-9);
          }
        },
      ),
    );
  });
  it('turns a corner smooth and back, and never leaves fewer than three points', () => {
    const smooth = toggledCorner(square, 1);
    expect(smooth[1]).toMatchObject({ outX: 40 / 6, outY: 40 / 6, inX: -40 / 6, inY: -40 / 6 });
    expect(toggledCorner(smooth, 1)).toEqual(square);
    expect(withoutPoints(square, new Set([0]))).toHaveLength(3);
    expect(withoutPoints(square, new Set([0, 1]))).toBeUndefined();
  });
});

describe('feather by point and gradient', () => {
  it('widens the feather where the factor is larger, linear along the edge', () => {
    const points = square.map((p, i) => ({ ...p, feather: i < 2 ? 1 : 3 }));
    const out = matte({ form: 'spline', points }, { innerPx: 0, outerPx: 4, falloff: 'linear' });
    // the top edge has factor 1: gone 4 px out; the bottom edge 3: gone 12 px out, half way at 6
    expect(out[15 * 80 + 40]).toBe(0);
    expect(out[18 * 80 + 40]).toBeCloseTo(1 - 1.5 / 4, 5);
    expect(out[65 * 80 + 40]).toBeCloseTo(1 - 5.5 / 12, 5);
    // half way down the sides the factor is 2
    expect(out[39 * 80 + 63]).toBeCloseTo(1 - 3.5 / (4 * 1.98), 1);
  });
  it('runs from 1 to 0 along its line, means the same at half size, and covers the whole picture', () => {
    const line: Geometry = { form: 'gradient', x0: 20, y0: 0, x1: 60, y1: 0 };
    const out = matte(line);
    expect([out[0], out[40], out[79]]).toEqual([1, expect.closeTo(1 - 20.5 / 40, 5), 0]);
    const half = matte(line, undefined, 0.5, 40, 40);
    expect(half[20]).toBeCloseTo(1 - 21 / 40, 5);
    expect(matte({ ...line, x1: 20 }).every((v) => v === 1)).toBe(true);
  });
});
