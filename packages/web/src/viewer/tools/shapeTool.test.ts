import { expect, it } from 'vitest';
import { dragged, handlesOf } from './shapeTool.ts';

const box = { form: 'rectangle' as const, cx: 100, cy: 50, width: 80, height: 40, turnDeg: 0 };
const at = (x: number, y: number, shift = false) => ({ x, y, px: 1, shift });

it('sizes from a corner while the opposite corner stays, turned or not', () => {
  const turned = { ...box, turnDeg: 30 };
  for (const start of [box, turned]) {
    const cornerOf = (g: typeof box, sx: number, sy: number) => handlesOf(g, 1).find((h) => h.grip.kind === 'size' && h.grip.sx === sx && h.grip.sy === sy)!;
    const grabbed = cornerOf(start, 1, 1);
    const after = dragged(start, grabbed.grip, at(grabbed.x, grabbed.y), at(grabbed.x + 17, grabbed.y - 9)) as typeof box;
    expect(cornerOf(after, 1, 1).x).toBeCloseTo(grabbed.x + 17, 6);
    expect(cornerOf(after, 1, 1).y).toBeCloseTo(grabbed.y - 9, 6);
    expect(cornerOf(after, -1, -1).x).toBeCloseTo(cornerOf(start, -1, -1).x, 6);
  }
});
it('keeps a spline smooth when a handle is pulled, unless Shift is held', () => {
  const point = { x: 10, y: 10, inX: -5, inY: 0, outX: 5, outY: 0 };
  const spline = { form: 'spline' as const, points: [point, { ...point, x: 50 }, { ...point, y: 60 }] };
  const grip = { kind: 'point' as const, index: 0, part: 'out' as const };
  const smooth = dragged(spline, grip, at(15, 10), at(14, 18)) as typeof spline;
  expect(smooth.points[0]).toMatchObject({ outX: 4, outY: 8, inX: -4, inY: -8 });
  const corner = dragged(spline, grip, at(15, 10), at(14, 18, true)) as typeof spline;
  expect(corner.points[0]).toMatchObject({ outX: 4, outY: 8, inX: -5, inY: 0 });
});
it('moves a whole shape and turns by steps of 15° with Shift', () => {
  expect(dragged(box, { kind: 'move' }, at(0, 0), at(5, -7))).toMatchObject({ cx: 105, cy: 43 });
  expect(dragged(box, { kind: 'turn' }, at(100, 0), at(150, 0, true))).toMatchObject({ turnDeg: 45 });
});
