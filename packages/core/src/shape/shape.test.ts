import type { Feather, Geometry, PathPoint } from '../document/geometry.ts';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { bezier, pathOf, polygonFromPath, withPointAdded } from './path.ts';
import { coverageInto } from './coverage.ts';
import { shapeMatteInto } from './shapeMatte.ts';

const hard: Feather = { innerPx: 0, outerPx: 0, falloff: 'linear' };
const sum = (plane: Float32Array) => plane.reduce((t, v) => t + v, 0);
function matte(geometry: Geometry, feather: Feather, w: number, h: number, scale = 1): Float32Array {
  const out = new Float32Array(w * h);
  shapeMatteInto(out, w, h, { geometry, feather }, scale);
  return out;
}
const circle = (r: number, cx = 40.3, cy = 39.7): Geometry => ({
  form: 'ellipse',
  cx,
  cy,
  width: 2 * r,
  height: 2 * r,
  turnDeg: 17,
});

describe('area coverage', () => {
  it.each([3, 7.5, 20, 33.3])('of a circle of radius %f sums to πr²', (r) => {
    // Archimedes' area; the polygon lies up to 0.01 px inside the curve: its area is short by no more than that × 2πr.
    expect(Math.abs(sum(matte(circle(r), hard, 80, 80)) - Math.PI * r * r)).toBeLessThan(
      0.01 * 2 * Math.PI * r + 6e-4 * Math.PI * r * r,
    );
  });
  it('of any triangle inside the picture is the shoelace area', () => {
    const c = fc.double({ min: 0, max: 24, noNaN: true });
    fc.assert(
      fc.property(c, c, c, c, c, c, (x0, y0, x1, y1, x2, y2) => {
        const out = new Float32Array(24 * 24);
        coverageInto(out, 24, 24, Float64Array.of(x0, y0, x1, y1, x2, y2));
        const area = Math.abs((x1 - x0) * (y2 - y0) - (x2 - x0) * (y1 - y0)) / 2;
        expect(Math.abs(sum(out) - area)).toBeLessThan(1e-3);
        for (const v of out) expect(v >= 0 && v <= 1).toBe(true);
      }),
    );
  });
  it('of a half-pixel edge is one half, and exactly 0 and 1 elsewhere', () => {
    const out = matte({ form: 'rectangle', cx: 3.25, cy: 3, width: 3.5, height: 4, turnDeg: 0 }, hard, 6, 6);
    expect([...out.subarray(12, 18)]).toEqual([0, 0.5, 1, 1, 1, 0]);
    expect([...out.subarray(0, 6)]).toEqual([0, 0, 0, 0, 0, 0]);
  });
  it('of a shape that reaches far outside the picture is its part inside', () => {
    const out = matte({ form: 'rectangle', cx: 0, cy: 0, width: 1000, height: 8, turnDeg: 0 }, hard, 10, 10);
    expect(sum(out)).toBeCloseTo(40, 5);
    expect(sum(matte(circle(5, -50, 5), hard, 10, 10))).toBe(0);
  });
});

describe('area coverage beside the picture’s left edge', () => {
  it('counts what lies outside for every pixel to its right, as a slanted edge crosses it', () => {
    // the triangle (−4, 0) (4, 0) (4, 8): its long side crosses x = 0 at y = 4; rows are covered from x = y − 4 on
    const out = new Float32Array(8 * 8);
    coverageInto(out, 8, 8, Float64Array.of(-4, 0, 4, 0, 4, 8));
    const row = (y: number) => [...out.slice(8 * y, 8 * y + 8)].map((v) => +v.toFixed(9));
    for (const y of [0, 1, 2, 3]) expect(row(y)).toEqual([1, 1, 1, 1, 0, 0, 0, 0]);
    expect(row(4)).toEqual([0.5, 1, 1, 1, 0, 0, 0, 0]);
    expect(row(6)).toEqual([0, 0, 0.5, 1, 0, 0, 0, 0].map((v, i) => (i === 2 ? 0.5 : v)));
    // a flatter one leaves the picture within a row: (−6, 0) to (2, 1) covers 2 − … of row 0 to the right of it
    const flat = new Float32Array(4);
    coverageInto(flat, 4, 1, Float64Array.of(-6, 0, 2, 1, 2, 0));
    // at x the edge stands at y = (x + 6) / 8: covered above it are (6.5, 7.5) / 8
    expect([...flat].map((v) => +v.toFixed(6))).toEqual([0.8125, 0.9375, 0, 0]);
  });
});

describe('feather', () => {
  it('runs from inner to outer by distance, on a straight edge and far from it', () => {
    const out = matte(
      { form: 'rectangle', cx: 50, cy: 50, width: 60, height: 4000, turnDeg: 0 },
      { innerPx: 10, outerPx: 5, falloff: 'linear' },
      100,
      3,
    );
    // the edge is at x = 20; α = (x − 20 + 5) / 15 at the pixel centre
    for (const x of [15, 18, 20, 25, 29]) expect(out[100 + x]).toBeCloseTo((x + 0.5 - 15) / 15, 5);
    expect(out[100 + 14]).toBe(0);
    expect(out[100 + 40]).toBe(1);
  });
  it('measures true Euclidean distance around a circle, to 0.02 px at 25 px out', () => {
    const out = matte(circle(12), { innerPx: 0, outerPx: 25, falloff: 'linear' }, 80, 80);
    let worst = 0;
    for (let y = 0; y < 80; y++)
      for (let x = 0; x < 80; x++) {
        const d = Math.hypot(x + 0.5 - 40.3, y + 0.5 - 39.7) - 12;
        if (d > 0.7 && d < 24.9) worst = Math.max(worst, Math.abs((1 - out[y * 80 + x]!) * 25 - d));
      }
    // the polygon's 0.01 px tolerance, the Bézier circle's 2.7e-4 · 12 px, and float rounding of α × 25
    expect(worst).toBeLessThan(0.02);
  });
  it('turns into the plain coverage as it shrinks to nothing', () => {
    const plain = matte(circle(9), hard, 80, 80);
    const tiny = matte(circle(9), { innerPx: 0.005, outerPx: 0.005, falloff: 'smooth' }, 80, 80);
    expect(plain.every((v, i) => Math.abs(v - tiny[i]!) < 0.01)).toBe(true);
  });
  it('means the same at half size: the half-size matte is the full matte averaged over 2 × 2', () => {
    const feather: Feather = { innerPx: 4, outerPx: 8, falloff: 'smooth' };
    const full = matte(circle(22), feather, 80, 80);
    const half = matte(circle(22), feather, 40, 40, 0.5);
    for (let y = 0; y < 40; y++)
      for (let x = 0; x < 40; x++) {
        const i = 2 * y * 80 + 2 * x;
        const mean = (full[i]! + full[i + 1]! + full[i + 80]! + full[i + 81]!) / 4;
        expect(Math.abs(half[y * 40 + x]! - mean)).toBeLessThan(0.02);
      }
  });
});

describe('path', () => {
  const leaf: PathPoint[] = [
    { x: 10, y: 10, inX: -5, inY: 8, outX: 12, outY: -6 },
    { x: 60, y: 20, inX: -10, inY: -10, outX: 4, outY: 22 },
    { x: 30, y: 70, inX: 20, inY: 0, outX: -25, outY: -3 },
  ];
  it('keeps its outline when a point is added on a segment', () => {
    for (const index of [0, 1, 2]) {
      const more = withPointAdded(leaf, index, 0.37);
      expect(more).toHaveLength(4);
      const before = matte({ form: 'spline', points: leaf }, hard, 80, 80);
      const after = matte({ form: 'spline', points: more }, hard, 80, 80);
      // the same curve, cut into other straight pieces: each within 0.01 px of it
      expect(before.every((v, i) => Math.abs(v - after[i]!) < 0.03)).toBe(true);
      expect(Math.abs(sum(before) - sum(after))).toBeLessThan(1);
    }
  });
  it('stays within its tolerance of the curve', () => {
    const polygon = polygonFromPath(leaf, 1, 0.05);
    const p = leaf[0]!;
    const q = leaf[1]!;
    for (let t = 0; t <= 1; t += 0.01) {
      const x = bezier([p.x, p.x + p.outX, q.x + q.inX, q.x], t);
      const y = bezier([p.y, p.y + p.outY, q.y + q.inY, q.y], t);
      let nearest = Infinity;
      for (let i = 0; i < polygon.length; i += 2) {
        const [ax, ay] = [polygon[i]!, polygon[i + 1]!];
        const [bx, by] = [polygon[(i + 2) % polygon.length]!, polygon[(i + 3) % polygon.length]!];
        const s = Math.min(
          Math.max(((x - ax) * (bx - ax) + (y - ay) * (by - ay)) / ((bx - ax) ** 2 + (by - ay) ** 2), 0),
          1,
        );
        nearest = Math.min(nearest, Math.hypot(x - ax - s * (bx - ax), y - ay - s * (by - ay)));
      }
      expect(nearest).toBeLessThanOrEqual(0.05);
    }
  });
  it('has no matte with fewer than three points', () => {
    expect(sum(matte({ form: 'spline', points: leaf.slice(0, 2) }, hard, 20, 20))).toBe(0);
    expect(pathOf(circle(4))).toHaveLength(4);
  });
});
