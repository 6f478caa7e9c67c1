import { expect, it } from 'vitest';
import type { Passage } from '../../commands/painting.ts';
import { BrushTool } from './brushTool.ts';
import type { At } from './tool.ts';

const at = (x: number, y: number, more: Partial<At> = {}): At => ({
  x,
  y,
  px: 1,
  shift: false,
  alt: false,
  pressure: 1,
  ...more,
});
const paintedBy = (act: (tool: BrushTool) => void) => {
  const painted: Passage[] = [];
  act(
    new BrushTool(
      'in',
      () => 20,
      (points) => painted.push(points),
    ),
  );
  return painted;
};

it('paints where it passes, as hard as it is pressed, without places that lie close', () => {
  const painted = paintedBy((tool) => {
    tool.down(at(10, 10, { pressure: 0.2 }));
    tool.move(at(11, 10, { pressure: 0.9 }));
    tool.move(at(20, 10, { pressure: 0.6 }));
    tool.up(at(30, 10, { pressure: 0 }));
  });
  // a pen that is lifted presses nothing: the end is as hard as what came before it
  expect(painted).toEqual([
    [
      [10, 10, 0.2],
      [20, 10, 0.6],
      [30, 10, 0.6],
    ],
  ]);
});
it('takes a click for a dot, and goes straight while Shift is held', () => {
  const painted = paintedBy((tool) => {
    tool.down(at(5, 6));
    tool.up(at(5, 6));
    tool.down(at(0, 0));
    tool.move(at(9, 30));
    tool.move(at(40, 2, { shift: true }));
    tool.up(at(50, 0, { shift: true }));
  });
  expect(painted).toEqual([
    [[5, 6, 1]],
    [
      [0, 0, 1],
      [50, 0, 1],
    ],
  ]);
});
it('paints nothing when it only passes, nor after Escape', () => {
  const painted = paintedBy((tool) => {
    tool.move(at(1, 1));
    tool.up(at(9, 9));
    tool.down(at(1, 1));
    expect(tool.key('Escape')).toBe(true);
    tool.up(at(12, 12));
    expect(tool.key('Escape')).toBe(false);
  });
  expect(painted).toEqual([]);
});
