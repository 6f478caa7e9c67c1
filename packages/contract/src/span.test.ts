import { expect, it } from 'vitest';
import { frameCount, framesOf, middleOf, Span, withHandles, within } from './span.ts';

it('a shot without a span shows all of its footage, one with a span no more than there is', () => {
  expect(framesOf({ span: null }, { frames: 48 })).toEqual({ from: 0, to: 47 });
  expect(framesOf({ span: { from: 5, to: 9 } }, { frames: 48 })).toEqual({ from: 5, to: 9 });
  // other footage was put in its place
  expect(framesOf({ span: { from: 40, to: 90 } }, { frames: 48 })).toEqual({ from: 40, to: 47 });
  expect(framesOf({ span: { from: 60, to: 90 } }, { frames: 48 })).toEqual({ from: 47, to: 47 });
});
it('has handles as far as the footage goes', () => {
  expect(withHandles({ from: 10, to: 20 }, { frames: 48 }, 8)).toEqual({ from: 2, to: 28 });
  expect(withHandles({ from: 3, to: 44 }, { frames: 48 }, 8)).toEqual({ from: 0, to: 47 });
  expect(withHandles({ from: 3, to: 9 }, { frames: 48 }, 0)).toEqual({ from: 3, to: 9 });
});
it('counts both ends, and keeps a frame inside', () => {
  const span = { from: 10, to: 13 };
  expect([frameCount(span), middleOf(span), within(span, 3), within(span, 12), within(span, 99)]).toEqual([
    4, 12, 10, 12, 13,
  ]);
  expect(Span.safeParse({ from: 3, to: 2 }).success).toBe(false);
});
