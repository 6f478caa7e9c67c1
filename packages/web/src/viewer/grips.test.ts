// What the pointer takes hold of, and what comes of it.
import { describe, expect, it, vi } from 'vitest';
import { Comparison } from './comparison.ts';
import { DotGrip, PanGrip, ToolGrip, WipeGrip, type Pointer } from './grips.ts';
import { ViewTransform } from './viewTransform.ts';

const pointer = (x: number, y: number, more: Partial<Pointer> = {}): Pointer => ({
  screen: [x, y],
  at: { x, y, px: 1, shift: false, alt: false, pressure: 1 },
  button: 0,
  space: false,
  ...more,
});

describe('a dot', () => {
  const dots = [
    { x: 10, y: 10, sign: 'add' as const },
    { x: 100, y: 100, sign: 'remove' as const },
  ];
  const grip = () => {
    const moved = vi.fn<(index: number, to: { x: number; y: number }) => void>();
    const made = new DotGrip(moved);
    made.dots = dots;
    return { grip: made, moved };
  };
  it('is taken within its reach and moved to where it is let go', () => {
    const { grip: g, moved } = grip();
    expect(g.down(pointer(104, 97))).toBe(true);
    g.move(pointer(150, 90));
    expect(g.shown[1]).toEqual({ x: 150, y: 90, sign: 'remove' });
    expect(g.shown[0]).toEqual(dots[0]);
    g.up();
    expect(moved.mock.calls).toEqual([[1, { x: 150, y: 90 }]]);
    expect(g.shown).toEqual(dots);
  });
  it('is left alone by a press beside it, by another button, and by a hand that hardly moves', () => {
    const { grip: g, moved } = grip();
    expect(g.down(pointer(109, 100))).toBe(false);
    expect(g.down(pointer(100, 100, { button: 1 }))).toBe(false);
    expect(g.down(pointer(100, 100))).toBe(true);
    g.move(pointer(101, 101));
    g.up();
    expect(moved).not.toHaveBeenCalled();
  });
});

describe('the view', () => {
  it('is moved with the middle button, with Space, or without a tool', () => {
    const [view, grip] = [new ViewTransform(), new PanGrip(new ViewTransform(), () => true)];
    expect(grip.down(pointer(0, 0))).toBe(false);
    expect(grip.down(pointer(0, 0, { button: 1 }))).toBe(true);
    expect(grip.down(pointer(0, 0, { space: true }))).toBe(true);
    const free = new PanGrip(view, () => false);
    expect(free.down(pointer(5, 5))).toBe(true);
    free.move(pointer(15, 4));
    free.move(pointer(16, 4));
    expect([view.x, view.y]).toEqual([11, -1]);
  });
});

describe('a wipe', () => {
  const wipe = () => {
    const comparison = new Comparison();
    const done = vi.fn<() => void>();
    const view = new ViewTransform();
    view.zoom = 0.5;
    return { comparison, done, grip: new WipeGrip(comparison, view, () => ({ width: 400, height: 200 }), done) };
  };
  it('is taken only while one wipes', () => {
    const { comparison, grip } = wipe();
    expect(grip.down(pointer(100, 50))).toBe(false);
    comparison.setMode('wipe', () => undefined);
    expect(grip.middle).toEqual([100, 50]);
    expect(grip.down(pointer(100, 50))).toBe(true);
    expect(grip.down(pointer(140, 50))).toBe(false);
  });
  it('is moved by its middle and stays on the picture', () => {
    const { comparison, grip, done } = wipe();
    comparison.setMode('wipe', () => undefined);
    grip.down(pointer(100, 50));
    grip.move(pointer(150, 25));
    expect(comparison.wipe).toEqual({ x: 0.75, y: 0.25, deg: 0 });
    grip.move(pointer(999, -5));
    expect(comparison.wipe).toEqual({ x: 1, y: 0, deg: 0 });
    grip.up();
    expect([done.mock.calls.length, grip.isHeld]).toEqual([1, false]);
  });
  it('is turned by its arm', () => {
    const { comparison, grip } = wipe();
    comparison.setMode('wipe', () => undefined);
    expect(grip.down(pointer(100, -20))).toBe(true);
    grip.move(pointer(200, -50));
    expect(comparison.wipe).toEqual({ x: 0.5, y: 0.5, deg: 45 });
  });
});

it('a tool takes the first button only, and nothing when there is none', () => {
  const grip = new ToolGrip();
  expect(grip.down(pointer(1, 2))).toBe(false);
  const tool = { cursor: '', down: vi.fn(), move: vi.fn(), up: vi.fn(), draw: vi.fn() };
  grip.tool = tool;
  expect([grip.down(pointer(1, 2, { button: 2 })), grip.down(pointer(1, 2))]).toEqual([false, true]);
  grip.move(pointer(3, 4));
  grip.up(pointer(5, 6));
  expect([tool.down, tool.move, tool.up].map((f) => f.mock.calls.map(([at]) => (at as { x: number }).x))).toEqual([
    [1],
    [3],
    [5],
  ]);
});

it('while one blinks the pictures take turns', () => {
  vi.useFakeTimers();
  const comparison = new Comparison();
  const drawn: string[] = [];
  const draw = () =>
    comparison.drawPictures({} as CanvasRenderingContext2D, { width: 100, height: 100 }, [0, 0], {
      picture: () => drawn.push('result'),
      source: () => drawn.push('source'),
    });
  comparison.setMode('blink', draw);
  draw();
  vi.advanceTimersByTime(1250);
  comparison.setMode('off', draw);
  vi.advanceTimersByTime(5000);
  draw();
  vi.useRealTimers();
  expect(drawn).toEqual(['result', 'source', 'result', 'result']);
});
it('side by side each picture has half the width', () => {
  const comparison = new Comparison();
  expect([comparison.paneWidth(800), comparison.shiftAt(10, 800)]).toEqual([800, 0]);
  comparison.setMode('side by side', () => undefined);
  expect([comparison.paneWidth(800), comparison.shiftAt(10, 800), comparison.shiftAt(700, 800)]).toEqual([
    400, -200, 200,
  ]);
});
