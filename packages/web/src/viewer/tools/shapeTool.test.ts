import { expect, it } from 'vitest';
import type { Geometry } from '@mellow/core';
import { dragged } from './shapeDrag.ts';
import { featherOutline, handlesOf } from './shapeHandles.ts';
import { ShapeTool } from './shapeTool.ts';
import type { Shape } from './tool.ts';

const feather = { innerPx: 0, outerPx: 0, falloff: 'smooth' as const };
const none: ReadonlySet<number> = new Set();
const box = { form: 'rectangle' as const, cx: 100, cy: 50, width: 80, height: 40, turnDeg: 0 };
const at = (x: number, y: number, more: { shift?: boolean; alt?: boolean } = {}) => ({
  x,
  y,
  px: 1,
  shift: false,
  alt: false,
  pressure: 1,
  ...more,
});
const corner = (x: number, y: number) => ({ x, y, inX: 0, inY: 0, outX: 0, outY: 0 });
const square: Extract<Geometry, { form: 'spline' }> = {
  form: 'spline',
  points: [corner(0, 0), corner(100, 0), corner(100, 100), corner(0, 100)],
};
const pull = <G extends Geometry>(
  geometry: G,
  ...[grip, from, to, chosen = none]: [
    Parameters<typeof dragged>[1],
    ReturnType<typeof at>,
    ReturnType<typeof at>,
    ReadonlySet<number>?,
  ]
) => dragged({ geometry, feather }, grip, from, to, chosen).geometry as G;

it('sizes from a corner while the opposite corner stays, turned or not', () => {
  const turned = { ...box, turnDeg: 30 };
  for (const start of [box, turned]) {
    const cornerOf = (g: typeof box, sx: number, sy: number) =>
      handlesOf({ geometry: g, feather }, none, 1).find(
        (h) => h.grip.kind === 'size' && h.grip.sx === sx && h.grip.sy === sy,
      )!;
    const grabbed = cornerOf(start, 1, 1);
    const after = pull(start, grabbed.grip, at(grabbed.x, grabbed.y), at(grabbed.x + 17, grabbed.y - 9));
    expect(cornerOf(after, 1, 1).x).toBeCloseTo(grabbed.x + 17, 6);
    expect(cornerOf(after, 1, 1).y).toBeCloseTo(grabbed.y - 9, 6);
    expect(cornerOf(after, -1, -1).x).toBeCloseTo(cornerOf(start, -1, -1).x, 6);
  }
});
it('keeps a spline smooth when a handle is pulled, unless Shift is held', () => {
  const point = { x: 10, y: 10, inX: -5, inY: 0, outX: 5, outY: 0 };
  const spline = { form: 'spline' as const, points: [point, { ...point, x: 50 }, { ...point, y: 60 }] };
  const grip = { kind: 'point' as const, index: 0, part: 'out' as const };
  expect(pull(spline, grip, at(15, 10), at(14, 18)).points[0]).toMatchObject({ outX: 4, outY: 8, inX: -4, inY: -8 });
  expect(pull(spline, grip, at(15, 10), at(14, 18, { shift: true })).points[0]).toMatchObject({
    outX: 4,
    outY: 8,
    inX: -5,
    inY: 0,
  });
});
it('moves a whole shape and turns by steps of 15° with Shift', () => {
  expect(pull(box, { kind: 'move' }, at(0, 0), at(5, -7))).toMatchObject({ cx: 105, cy: 43 });
  expect(pull(box, { kind: 'turn' }, at(100, 0), at(150, 0, { shift: true }))).toMatchObject({ turnDeg: 45 });
});
it('shears with Alt on a side: that side slides, the opposite stays, and a rectangle becomes a spline', () => {
  const sheared = dragged(
    { geometry: box, feather },
    { kind: 'size', sx: 0, sy: -1 },
    at(100, 30),
    at(110, 30, { alt: true }),
    none,
  ).geometry;
  if (sheared.form !== 'spline') throw new Error('a sheared rectangle is no rectangle');
  expect(sheared.points.map((p) => [p.x, p.y])).toEqual([
    [70, 30],
    [150, 30],
    [140, 70],
    [60, 70],
  ]);
});
it('scales and moves only the chosen points of a spline', () => {
  const right = new Set([1, 2]);
  expect(pull(square, { kind: 'move' }, at(0, 0), at(7, 3), right).points.map((p) => p.x)).toEqual([0, 107, 107, 0]);
  // the box round the right side stands 22 px off: 44 × 144; pulled down by 144 px it doubles about its top
  const scaled = pull(square, { kind: 'size', sx: 0, sy: 1 }, at(100, 122), at(100, 266), right);
  expect(scaled.points.map((p) => Math.round(p.y))).toEqual([0, 22, 222, 100]);
});
it('pulls the outer feather out to the pointer, all round or, with Shift, at one point', () => {
  const start: Shape = { geometry: square, feather: { ...feather, outerPx: 10 } };
  const grip = { kind: 'feather' as const, side: 'outerPx' as const, index: 0 };
  const diagonal = at(-20 / Math.SQRT2, -20 / Math.SQRT2);
  expect(dragged(start, grip, at(0, 0), diagonal, none).feather.outerPx).toBeCloseTo(20, 1);
  const one = dragged(start, grip, at(0, 0), { ...diagonal, shift: true }, none);
  expect(one.feather.outerPx).toBe(10);
  expect((one.geometry as typeof square).points.map((p) => p.feather)).toEqual([2, undefined, undefined, undefined]);
  for (const [x, y] of featherOutline(square.points, 10)) expect(Math.min(x, y, 100 - x, 100 - y)).toBeLessThan(0);
});

it('adds a point on a clicked segment, chooses by marquee, deletes and rounds points, and nudges', () => {
  const steps: string[] = [];
  let now: Shape = { geometry: square, feather };
  const tool = new ShapeTool(now, (shape, phase, what) => {
    now = shape;
    if (phase === 'done') steps.push(what);
  });
  const click = (x: number, y: number) => (tool.down(at(x, y)), tool.up(at(x, y)));
  const points = () => (now.geometry as typeof square).points;
  click(100, 70);
  expect(points().map((p) => [Math.round(p.x), Math.round(p.y)])).toEqual([
    [0, 0],
    [100, 0],
    [100, 70],
    [100, 100],
    [0, 100],
  ]);
  tool.double(at(100, 70));
  expect(points()[2]).toMatchObject({ outX: 0, outY: 100 / 6 });
  tool.down(at(250, -60));
  tool.move(at(80, 60));
  tool.up(at(80, 60));
  tool.nudge(5, 0);
  expect(points().map((p) => p.x)).toEqual([0, 105, 100, 100, 0]);
  expect(tool.key('Delete')).toBe(true);
  expect(points()).toHaveLength(4);
  expect(steps).toEqual(['Add a point', 'Corner or smooth', 'Nudge', 'Delete a point']);
});
