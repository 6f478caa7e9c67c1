import { expect, it } from 'vitest';
import { framesAround, framesToPlay } from './framesAround.ts';

it('plays on from a frame, round the end of the shot', () => {
  expect(framesToPlay(10, { from: 0, to: 99 })).toEqual([11, 12, 13, 14, 15, 16, 17, 18, 19, 20, 21, 22]);
  expect(framesToPlay(98, { from: 90, to: 99 })).toEqual([99, 90, 91, 92, 93, 94, 95, 96, 97]);
  // into a loop from outside of it
  expect(framesToPlay(2, { from: 5, to: 7 })).toEqual([6, 7, 5]);
});
it('looks at what is next to it on both sides first, then at two seconds of play, each frame once', () => {
  const around = framesAround(30, { from: 0, to: 999 });
  expect(around.slice(0, 6)).toEqual([31, 29, 32, 28, 33, 27]);
  expect(around.slice(15, 18)).toEqual([22, 39, 40]);
  expect([around.length, new Set(around).size, around.at(-1)]).toEqual([56, 56, 78]);
});
it('holds no frame outside the shot, nor the one in hand', () => {
  expect(framesAround(5, { from: 5, to: 5 })).toEqual([]);
  expect(framesToPlay(5, { from: 5, to: 5 })).toEqual([]);
  expect(framesAround(12, { from: 10, to: 14 }).sort()).toEqual([10, 11, 13, 14]);
});
