import { expect, it } from 'vitest';
import type { Stroke } from '@mellow/contract';
import { strokesOverlay } from '../overlays.ts';
import { ScribbleTool } from './scribbleTool.ts';

const at = (x: number, y: number, px = 0.5) => ({ x, y, px, shift: false, alt: false, pressure: 1 });
const drawnBy = (act: (tool: ScribbleTool) => void, sign: Stroke['sign'] = 'in') => {
  const drawn: Stroke[] = [];
  act(new ScribbleTool(sign, (stroke) => drawn.push(stroke)));
  return drawn;
};

it('draws a stroke as wide on the picture as eight pixels of the screen are, without points that lie close', () => {
  const [stroke, ...more] = drawnBy((tool) => {
    tool.down(at(10, 10));
    tool.move(at(10.5, 10));
    tool.move(at(14, 10));
    tool.move(at(14, 13));
    tool.up(at(14.2, 13));
  }, 'out');
  expect(stroke).toEqual({
    sign: 'out',
    widthPx: 4,
    points: [
      [10, 10],
      [14, 10],
      [14, 13],
    ],
  });
  expect(more).toEqual([]);
});
it('takes a click for a dot', () =>
  expect(
    drawnBy((tool) => {
      tool.down(at(5, 6, 1));
      tool.up(at(5, 6, 1));
    }),
  ).toEqual([{ sign: 'in', widthPx: 8, points: [[5, 6]] }]));
it('draws nothing when the pointer only passes, nor after Escape', () => {
  expect(
    drawnBy((tool) => {
      tool.move(at(1, 1));
      tool.up(at(9, 9));
    }),
  ).toEqual([]);
  expect(
    drawnBy((tool) => {
      tool.down(at(1, 1));
      tool.move(at(9, 9));
      expect(tool.key('Escape')).toBe(true);
      tool.up(at(12, 12));
      expect(tool.key('Escape')).toBe(false);
    }),
  ).toEqual([]);
});

it('draws round what is looked for, a box with Shift, and nothing by a click', () => {
  const click = (tool: ScribbleTool) => {
    tool.down(at(5, 6));
    tool.up(at(5, 6));
  };
  expect(drawnBy(click, 'around')).toEqual([]);
  const [box] = drawnBy((tool) => {
    tool.down(at(10, 10));
    tool.move({ ...at(40, 30), shift: true });
    tool.up({ ...at(50, 40), shift: true });
  }, 'around');
  expect(box).toMatchObject({
    sign: 'around',
    points: [
      [10, 10],
      [50, 10],
      [50, 40],
      [10, 40],
    ],
  });
});

it('shows a stroke as wide as it is as far as it says something, and as a thin line where it lies and does not', () => {
  const lines: [width: number, points: number][] = [];
  let points = 0;
  const context = {
    beginPath: () => (points = 0),
    moveTo: () => points++,
    lineTo: () => points++,
    stroke: () => lines.push([context.lineWidth, points]),
    lineWidth: 0,
    ...{ save: none, restore: none, setLineDash: none, fillRect: none },
  };
  const shown = (holds?: Stroke['points'][]) => {
    lines.length = 0;
    const stroke: Stroke = {
      sign: 'out',
      widthPx: 8,
      points: [
        [0, 0],
        [9, 0],
        [20, 0],
      ],
    };
    const to = (x: number, y: number): [number, number] => [x, y];
    const over = { context: context as unknown as CanvasRenderingContext2D, to, scale: 1, ghosted: false };
    strokesOverlay([{ stroke, ...(holds && { holds }) }])(over);
    return [...lines];
  };
  const wide = (count: number) => [
    [10, count],
    [8, count],
  ];
  const thin = [
    [3, 3],
    [1.4, 3],
  ];
  expect(shown()).toEqual(wide(3));
  expect(shown([])).toEqual(thin);
  const part: Stroke['points'] = [
    [0, 0],
    [9, 0],
  ];
  expect(shown([part])).toEqual([...thin, ...wide(2)]);
});
const none = () => undefined;
