// Paths as a projective map or a bending surface carries them.
import { describe, expect, it } from 'vitest';
import type { Geometry, PathPoint } from '../document/geometry.ts';
import { FLEX_NODES } from '../track/flex.ts';
import { project, type Homography, type Quad } from '../track/homography.ts';
import { bentPoint, flexed, unbentPoint, unflexed, type Bend } from './flexed.ts';
import { pathOf } from './path.ts';
import { projectedGeometry } from './projected.ts';

const disc: Geometry = { form: 'ellipse', cx: 200, cy: 150, width: 160, height: 100, turnDeg: 20 };
/** The same as a path. */
const drawn: Geometry = { form: 'spline', points: pathOf(disc) };
const box: Geometry = { form: 'rectangle', cx: 200, cy: 150, width: 160, height: 100, turnDeg: 0 };
const line: Geometry = { form: 'gradient', x0: 10, y0: 20, x1: 300, y1: 200 };
const tilt: Homography = [1.1, 0.05, 4, -0.03, 0.95, 7, 0.0012, -0.0007, 1];

/** Places along a path's curves, `each` to a segment (cubic Bézier by its definition). */
function along(points: readonly PathPoint[], each = 16): [number, number][] {
  return points.flatMap((p, i) => {
    const q = points[(i + 1) % points.length]!;
    return Array.from({ length: each }, (_, k): [number, number] => {
      const t = k / each;
      const [a, b, c, d] = [(1 - t) ** 3, 3 * t * (1 - t) ** 2, 3 * t * t * (1 - t), t ** 3];
      return [
        a * p.x + b * (p.x + p.outX) + c * (q.x + q.inX) + d * q.x,
        a * p.y + b * (p.y + p.outY) + c * (q.y + q.inY) + d * q.y,
      ];
    });
  });
}
/** The largest distance from the one set of places to the nearest of the other. */
const furthest = (from: [number, number][], to: [number, number][]) =>
  Math.max(...from.map(([x, y]) => Math.min(...to.map(([u, v]) => Math.hypot(x - u, y - v)))));

describe('a projected geometry', () => {
  it.each([
    ['slightly', [1.1, 0.05, 4, -0.03, 0.95, 7, 0.00003, -0.00002, 1]],
    ['somewhat', [1.1, 0.05, 4, -0.03, 0.95, 7, 0.0002, 0.0001, 1]],
    ['strongly', tilt],
  ] as [string, Homography][])('is the curve that the map makes of it, to a tenth of a pixel: %s', (_, h) => {
    const wanted = along(pathOf(disc), 64).map(([x, y]) => project(h, x, y));
    for (const shape of [disc, drawn]) {
      const got = along(pathOf(projectedGeometry(shape, h)), 64);
      expect(furthest(wanted, got)).toBeLessThan(1.5);
      const fine = along(pathOf(projectedGeometry(shape, h)), 512);
      expect(furthest(wanted, fine)).toBeLessThan(0.2);
    }
  });
  it('has more points the more the scale changes over it, and as many as before where they are to be kept', () => {
    const counts = (h6: number, keep = false) =>
      pathOf(projectedGeometry(drawn, [1, 0, 0, 0, 1, 0, h6, 0, 1], keep)).length;
    const own = pathOf(disc).length;
    // bend is |h₆| × the width of its points: one halving from 0.004, two from 0.1
    expect([0.00001, 0.0001, 0.01].map((h6) => counts(h6))).toEqual([own, 2 * own, 4 * own]);
    expect(counts(0.01, true)).toBe(own);
  });
  it('that was an ellipse is one', () =>
    expect(projectedGeometry(disc, tilt, true)).toMatchObject({ form: 'ellipse', cx: expect.closeTo(202, -1) }));
  it('divides no straight sides: they stay straight', () =>
    expect(pathOf(projectedGeometry(box, tilt)).map((p) => [p.x, p.y])).toEqual(
      pathOf(box).map((p) => project(tilt, p.x, p.y)),
    ));
  it('turns handles as the map turns what is next to the point', () => {
    const points = pathOf(disc).map((p) => ({ ...p, inX: 1e-4, inY: 2e-4, outX: 3e-4, outY: -1e-4 }));
    const got = pathOf(projectedGeometry({ form: 'spline', points }, tilt, true));
    points.forEach((p, i) => {
      const [x, y] = project(tilt, p.x, p.y);
      const [inX, inY] = project(tilt, p.x + p.inX, p.y + p.inY);
      const [outX, outY] = project(tilt, p.x + p.outX, p.y + p.outY);
      const g = got[i]!;
      [g.inX - (inX - x), g.inY - (inY - y), g.outX - (outX - x), g.outY - (outY - y)].forEach((off) =>
        expect(Math.abs(off)).toBeLessThan(1e-8),
      );
    });
  });
  it('of a gradient is the gradient between its ends', () => {
    const [x0, y0] = project(tilt, 10, 20);
    const [x1, y1] = project(tilt, 300, 200);
    expect(projectedGeometry(line, tilt)).toEqual({ form: 'gradient', x0, y0, x1, y1 });
  });
});

describe('a bent geometry', () => {
  const quad: Quad = [
    [100, 80],
    [340, 80],
    [340, 200],
    [100, 200],
  ];
  const nodes = (move: (u: number, v: number) => [number, number]): Bend => ({
    quad,
    flex: Array.from({ length: FLEX_NODES * FLEX_NODES }, (_, k) =>
      move((k % FLEX_NODES) / (FLEX_NODES - 1), Math.floor(k / FLEX_NODES) / (FLEX_NODES - 1)),
    ).flat(),
  });
  const still = nodes(() => [0, 0]);
  const aside = nodes(() => [3, -2]);
  const wave = nodes((u, v) => [6 * Math.sin(3 * u + v), 5 * Math.cos(4 * v)]);
  const places = (geometry: Geometry) => pathOf(geometry).map((p) => [p.x, p.y, p.inX, p.inY, p.outX, p.outY]);

  it('moves as the nodes do, its handles unturned where all move alike', () => {
    const moved = places(flexed(disc, aside, true));
    places(disc).forEach((p, i) => {
      const wanted = [p[0]! + 3, p[1]! - 2, ...p.slice(2)];
      moved[i]!.forEach((v, k) => expect(v).toBeCloseTo(wanted[k]!, 9));
    });
    expect(bentPoint(aside, 150, 100)).toEqual([153, 98]);
    expect(flexed(line, aside)).toEqual({ form: 'gradient', x0: 13, y0: 18, x1: 303, y1: 198 });
  });
  it('carries the ends of its handles too; a corner without handles stays one', () => {
    const corners = pathOf(flexed(box, wave, true));
    expect(corners.every((p) => p.inX === 0 && p.inY === 0 && p.outX === 0 && p.outY === 0)).toBe(true);
    const upright = { x: 150, y: 120, inX: 0, inY: -9, outX: 12, outY: 0 };
    const points = [upright, ...pathOf(disc)];
    const [first] = pathOf(flexed({ form: 'spline', points }, wave, true));
    const [x, y] = bentPoint(wave, 150, 120);
    const [inX, inY] = bentPoint(wave, 150, 111);
    const [outX, outY] = bentPoint(wave, 162, 120);
    const wanted = [x, y, inX - x, inY - y, outX - x, outY - y];
    const { x: gx, y: gy, inX: gix, inY: giy, outX: gox, outY: goy } = first!;
    [gx, gy, gix, giy, gox, goy].forEach((v, k) => expect(v).toBeCloseTo(wanted[k]!, 9));
  });
  it('has segments no longer than the nodes lie apart, halved at most three times', () => {
    const lengths = (geometry: Geometry) => {
      const points = pathOf(geometry);
      return points.map((p, i) => {
        const q = points[(i + 1) % points.length]!;
        return Math.hypot(q.x - p.x, q.y - p.y);
      });
    };
    // nodes lie 20 px apart over a box of 240 × 120
    expect(Math.max(...lengths(flexed(box, still)))).toBeLessThanOrEqual(20);
    const large: Geometry = { form: 'rectangle', cx: 0, cy: 0, width: 1600, height: 1600, turnDeg: 0 };
    expect(lengths(flexed(large, still))).toHaveLength(32);
    expect(lengths(flexed(box, still, true))).toHaveLength(4);
  });
  it('goes back to where it was', () => {
    for (const [x, y] of [
      [120, 90],
      [250, 130],
      [330, 190],
    ] as const) {
      const [u, v] = bentPoint(wave, x, y);
      const [bx, by] = unbentPoint(wave, u, v);
      expect(Math.hypot(bx - x, by - y)).toBeLessThan(1e-4);
    }
    const there = flexed({ form: 'spline', points: pathOf(disc) }, wave, true);
    const back = places(unflexed(there, wave));
    places(disc).forEach((p, i) => p.forEach((v, k) => expect(Math.abs(back[i]![k]! - v)).toBeLessThan(1e-3)));
  });
});
