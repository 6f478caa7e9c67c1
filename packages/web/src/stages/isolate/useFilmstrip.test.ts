import { describe, expect, it } from 'vitest';
import { framesShown, isJump } from './useFilmstrip.ts';

describe('frames of a filmstrip', () => {
  it('are all of a short shot, and evenly some of a long one', () => {
    expect(framesShown({ from: 3, to: 6 })).toEqual([3, 4, 5, 6]);
    expect(framesShown({ from: 0, to: 999 }, 100)).toHaveLength(100);
    expect(framesShown({ from: 10, to: 30 }, 10)).toEqual([10, 13, 16, 19, 22, 25, 28]);
  });
});
describe('a frame stands out', () => {
  it('when its area lies off those beside it by an eighth, more or less', () => {
    const shares = [0.1, 0.1, 0.15, 0.1, 0.08, 0.1];
    expect(shares.map((_, k) => isJump(shares, k))).toEqual([false, false, true, false, true, true]);
  });
  it('not while something grows, nor beside frames that are not known yet', () => {
    const growing = [0.1, 0.13, 0.17, 0.22];
    expect([1, 2].some((k) => isJump(growing, k))).toBe(false);
    expect(isJump([undefined, 0.2, undefined], 1)).toBe(false);
    expect(isJump([0.1, undefined, 0.1], 1)).toBe(false);
  });
  it('when it is empty between two that are not', () => expect(isJump([0.1, 0, 0.1], 1)).toBe(true));
});
