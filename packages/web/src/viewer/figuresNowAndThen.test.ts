import { expect, it } from 'vitest';
import type { ShowTask } from '../engine/frameProtocol.ts';
import { FiguresNowAndThen } from './figuresNowAndThen.ts';

const moving = { kind: 'show', show: 'Tint', measure: true, onTheWay: true } as ShowTask;

it('under a moving hand a picture is measured until figures have come, and again when they are old', () => {
  const figures = new FiguresNowAndThen(400);
  // those that are asked for may be overtaken by the next picture
  expect([figures.wanted(moving, 1000), figures.wanted(moving, 1010)]).toEqual([moving, moving]);
  figures.came(1050);
  expect(figures.wanted(moving, 1449)).toEqual({ ...moving, measure: false });
  expect(figures.wanted(moving, 1450)).toBe(moving);
});
it('what a hand has come to is measured at once', () => {
  const figures = new FiguresNowAndThen(400);
  figures.came(1000);
  const rested = { ...moving, onTheWay: undefined };
  expect(figures.wanted(rested, 1001)).toBe(rested);
});
it('nothing is measured that was not to be', () => {
  const plain = { ...moving, measure: false };
  expect(new FiguresNowAndThen(400).wanted(plain, 0)).toBe(plain);
});
