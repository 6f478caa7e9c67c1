// What a hand draws, gesture by gesture, and what is seen of it on a canvas that writes down what it is told.
import { describe, expect, it, vi } from 'vitest';
import type { Geometry } from '@mellow/contract';
import { BoxTool } from './boxTool.ts';
import { GradientTool } from './gradientTool.ts';
import { PickTool } from './pickTool.ts';
import { SplineTool } from './splineTool.ts';
import type { At, ToScreen, ViewerTool } from './tool.ts';

const at = (x: number, y: number, more: Partial<At> = {}): At => ({
  x,
  y,
  px: 1,
  shift: false,
  alt: false,
  pressure: 1,
  ...more,
});
const drag = (tool: ViewerTool, from: At, ...way: At[]) => {
  tool.down(from);
  way.forEach((a) => tool.move(a));
  tool.up(way.at(-1) ?? from);
};
const maker = () => vi.fn<(geometry: Geometry) => void>();

/** A canvas that writes down where it was told to draw, and how often. */
function stubCanvas() {
  const told: (string | number)[][] = [];
  const context = new Proxy<Record<string, unknown>>(
    {},
    {
      get: (kept, name: string) => kept[name] ?? ((...args: number[]) => void told.push([name, ...args])),
      set: (kept, name: string, value) => ((kept[name] = value), true),
    },
  );
  return { context: context as unknown as CanvasRenderingContext2D, told };
}
const doubled: ToScreen = (x, y) => [2 * x, 2 * y];

describe('a box', () => {
  it('goes from corner to corner, whichever way it is pulled', () => {
    for (const [from, to] of [
      [at(10, 20), at(50, 40)],
      [at(50, 40), at(10, 20)],
    ] as const) {
      const made = maker();
      drag(new BoxTool('rectangle', made), from, to);
      expect(made.mock.calls).toEqual([[{ form: 'rectangle', cx: 30, cy: 30, width: 40, height: 20, turnDeg: 0 }]]);
    }
  });
  it('is kept square with Shift, from where it was begun', () => {
    const made = maker();
    drag(new BoxTool('ellipse', made), at(10, 10), at(50, 20, { shift: true }));
    expect(made.mock.calls[0]![0]).toEqual({ form: 'ellipse', cx: 30, cy: 30, width: 40, height: 40, turnDeg: 0 });
  });
  it('of a slip of the hand is none, however far one has zoomed in', () => {
    const made = maker();
    drag(new BoxTool('rectangle', made), at(10, 10), at(12, 30));
    drag(new BoxTool('rectangle', made), at(10, 10, { px: 0.1 }), at(10.2, 14, { px: 0.1 }));
    expect(made).not.toHaveBeenCalled();
    drag(new BoxTool('rectangle', made), at(10, 10, { px: 0.1 }), at(12, 14, { px: 0.1 }));
    expect(made).toHaveBeenCalledTimes(1);
  });
  it('is seen while it is drawn and not before or after', () => {
    const tool = new BoxTool('rectangle', maker());
    const { context, told } = stubCanvas();
    tool.draw(context, doubled);
    tool.down(at(10, 20));
    tool.draw(context, doubled);
    expect(told).toEqual([]);
    tool.move(at(50, 40));
    tool.draw(context, doubled);
    expect(told.find(([name]) => name === 'moveTo')).toEqual(['moveTo', 20, 40]);
    tool.up(at(50, 40));
    told.length = 0;
    tool.draw(context, doubled);
    expect(told).toEqual([]);
  });
});

describe('a spline', () => {
  const clicks = (tool: SplineTool, ...places: [number, number][]) => places.forEach(([x, y]) => drag(tool, at(x, y)));
  it('closes on its first point, once it has three', () => {
    const made = maker();
    const tool = new SplineTool(made);
    clicks(tool, [0, 0], [100, 0], [3, 3]);
    expect(made).not.toHaveBeenCalled();
    clicks(tool, [100, 100], [4, 4]);
    const [geometry] = made.mock.calls[0]! as [Extract<Geometry, { form: 'spline' }>];
    expect(geometry.points.map((p) => [p.x, p.y])).toEqual([
      [0, 0],
      [100, 0],
      [3, 3],
      [100, 100],
    ]);
  });
  it('has a handle on either side of a point that was pulled, and none at one that was clicked', () => {
    const made = maker();
    const tool = new SplineTool(made);
    clicks(tool, [0, 0]);
    drag(tool, at(100, 0), at(110, 5), at(120, 10));
    drag(tool, at(100, 100), at(102, 101));
    tool.key('Enter');
    const [geometry] = made.mock.calls[0]! as [Extract<Geometry, { form: 'spline' }>];
    expect(geometry.points[1]).toEqual({ x: 100, y: 0, outX: 20, outY: 10, inX: -20, inY: -10 });
    expect(geometry.points[2]).toEqual({ x: 100, y: 100, outX: 0, outY: 0, inX: 0, inY: 0 });
  });
  it('takes its last point back, is given up, and begins anew after it was closed', () => {
    const made = maker();
    const tool = new SplineTool(made);
    expect(tool.key('Delete')).toBe(false);
    clicks(tool, [0, 0], [100, 0], [50, 50], [90, 90]);
    expect(tool.key('Delete')).toBe(true);
    tool.key('Enter');
    expect((made.mock.calls[0]![0] as { points: unknown[] }).points).toHaveLength(3);
    clicks(tool, [5, 5], [6, 60]);
    tool.key('Enter');
    tool.key('Escape');
    expect([made.mock.calls.length, tool.key('Enter')]).toEqual([1, false]);
  });
  it('shows the way to the pointer, and a handle at every point', () => {
    const tool = new SplineTool(maker());
    clicks(tool, [10, 10], [20, 10]);
    tool.move(at(40, 30));
    const { context, told } = stubCanvas();
    tool.draw(context, doubled);
    expect(told.filter(([name]) => name === 'arc').map(([, x, y]) => [x, y])).toEqual([
      [20, 20],
      [40, 20],
    ]);
    expect(
      told
        .filter(([name]) => name === 'bezierCurveTo')
        .at(-1)!
        .slice(-2),
    ).toEqual([80, 60]);
  });
});

describe('a gradient', () => {
  it('goes from full to nothing, and upright or level with Shift', () => {
    const made = maker();
    drag(new GradientTool(made), at(10, 10), at(60, 20));
    drag(new GradientTool(made), at(10, 10), at(60, 20, { shift: true }));
    drag(new GradientTool(made), at(10, 10), at(15, 90, { shift: true }));
    drag(new GradientTool(made), at(10, 10), at(12, 11));
    expect(made.mock.calls.map(([g]) => g)).toEqual([
      { form: 'gradient', x0: 10, y0: 10, x1: 60, y1: 20 },
      { form: 'gradient', x0: 10, y0: 10, x1: 60, y1: 10 },
      { form: 'gradient', x0: 10, y0: 10, x1: 10, y1: 90 },
    ]);
  });
  it('is seen as a line while it is drawn', () => {
    const tool = new GradientTool(maker());
    const { context, told } = stubCanvas();
    tool.down(at(1, 2));
    tool.move(at(30, 40));
    tool.draw(context, doubled);
    expect(told.slice(1, 3)).toEqual([
      ['moveTo', 2, 4],
      ['lineTo', 60, 80],
    ]);
  });
});

describe('a pick', () => {
  it('is a click or a rectangle as it was pulled', () => {
    const picked = vi.fn<(rect: object) => void>();
    const tool = new PickTool(picked);
    drag(tool, at(7, 8));
    drag(tool, at(50, 60), at(20, 90));
    tool.up(at(1, 1));
    expect(picked.mock.calls).toEqual([[{ x0: 7, y0: 8, x1: 7, y1: 8 }], [{ x0: 50, y0: 60, x1: 20, y1: 90 }]]);
  });
  it('shows its rectangle while it is pulled', () => {
    const tool = new PickTool(() => undefined);
    const { context, told } = stubCanvas();
    tool.draw(context, doubled);
    expect(told).toEqual([]);
    tool.down(at(10, 10));
    tool.move(at(30, 25));
    tool.draw(context, doubled);
    expect(told[1]).toEqual(['rect', 20, 20, 40, 30]);
  });
});
