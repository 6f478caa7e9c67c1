// Strokes that are there: chosen, moved, taken away; and a click that grows.
import { describe, expect, it } from 'vitest';
import type { Stroke } from '@mellow/contract';
import { GrowTool } from './growTool.ts';
import { StrokeTool } from './strokeTool.ts';

const at = (x: number, y: number, px = 0.5) => ({ x, y, px, shift: false, alt: false, pressure: 1 });
const line = (sign: Stroke['sign'], y: number): Stroke => ({
  sign,
  widthPx: 6,
  points: [
    [10, y],
    [50, y],
  ],
});
const box: Stroke = {
  sign: 'around',
  widthPx: 4,
  points: [
    [100, 100],
    [200, 100],
    [200, 200],
    [100, 200],
  ],
};
function hand(strokes: Stroke[], chosen?: number) {
  const told: unknown[] = [];
  const held = strokes.map((stroke, k) => ({ at: k, stroke }));
  const tool = new StrokeTool(held, chosen, {
    chosen: (nth) => told.push(['chosen', nth]),
    changed: (nth, stroke, phase, what) => told.push([phase, nth, stroke?.points[0], what]),
  });
  return { tool, told };
}

describe('strokes', () => {
  it('are chosen by a click, the nearest, and let go by one beside them', () => {
    const { tool, told } = hand([line('in', 20), line('out', 30)]);
    for (const y of [27, 23, 60]) {
      tool.down(at(30, y));
      tool.up(at(30, y));
    }
    expect(told).toEqual([
      ['chosen', 1],
      ['chosen', 0],
      ['chosen', undefined],
    ]);
  });
  it('are moved with the hand, as one step, once it has moved', () => {
    const { tool, told } = hand([line('in', 20)]);
    tool.down(at(30, 20));
    tool.move(at(30.5, 20));
    tool.move(at(35, 28));
    tool.up(at(36, 28));
    expect(told).toEqual([
      ['chosen', 0],
      ['drag', 0, [15, 28], ''],
      ['drag', 0, [16, 28], ''],
      ['done', 0, [16, 28], 'Move a stroke'],
    ]);
  });
  it('that go round are held by their line, also where it closes, not by what they go round', () => {
    const { tool, told } = hand([box]);
    tool.down(at(150, 150));
    tool.up(at(150, 150));
    tool.down(at(101, 150));
    tool.up(at(101, 150));
    expect(told).toEqual([['chosen', 0]]);
  });
  it('go with Delete, are nudged, and let go with Escape', () => {
    const { tool, told } = hand([line('in', 20), line('in', 40)], 1);
    expect(tool.nudge(2, 0)).toBe(true);
    expect(tool.key('Delete')).toBe(true);
    expect(told).toEqual([
      ['done', 1, [12, 40], 'Nudge a stroke'],
      ['chosen', undefined],
      ['done', 1, undefined, 'Remove a stroke'],
    ]);
    expect([tool.key('Delete'), tool.nudge(1, 0)]).toEqual([false, false]);
  });
  it('changed elsewhere are taken over, but for while the hand is on one', () => {
    const { tool, told } = hand([line('in', 20)]);
    tool.sync([{ at: 0, stroke: line('in', 80) }], undefined);
    tool.down(at(30, 80));
    tool.sync([], undefined);
    tool.up(at(40, 80));
    expect(told.at(-1)).toEqual(['done', 0, [20, 80], 'Move a stroke']);
  });
});

describe('a click that grows', () => {
  const grow = () => {
    const placed: Stroke[] = [];
    const factors: number[] = [];
    const tool = new GrowTool(
      0.1,
      (stroke) => placed.push(stroke),
      (factor) => factors.push(factor) > 0,
    );
    return { tool, placed, factors };
  };
  it('places a dot with a reach; the wheel is its own from then on, until Escape', () => {
    const { tool, placed, factors } = grow();
    expect(tool.wheel(100)).toBe(false);
    tool.down(at(5, 6));
    expect(placed).toEqual([{ sign: 'in', widthPx: 4, points: [[5, 6]], reach: 0.1 }]);
    expect([tool.wheel(-100), tool.wheel(100)]).toEqual([true, true]);
    expect(factors[0]).toBeGreaterThan(1.05);
    expect(factors[0]! * factors[1]!).toBeCloseTo(1);
    expect(tool.key('Escape')).toBe(true);
    expect([tool.wheel(-100), tool.key('Escape')]).toEqual([false, false]);
  });
});
