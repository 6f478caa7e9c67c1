import { expect, it } from 'vitest';
import { nextStop } from './useRoving.ts';

it('goes round with the arrows, and to the ends with Home and End', () => {
  expect([nextStop('ArrowRight', 0, 3), nextStop('ArrowDown', 2, 3)]).toEqual([1, 0]);
  expect([nextStop('ArrowLeft', 0, 3), nextStop('ArrowUp', 2, 3)]).toEqual([2, 1]);
  expect([nextStop('Home', 2, 3), nextStop('End', 0, 3)]).toEqual([0, 2]);
});
it('moves with no other key, and from nothing that is no stop', () =>
  expect([nextStop('q', 1, 3), nextStop('ArrowRight', -1, 3)]).toEqual([undefined, undefined]));
