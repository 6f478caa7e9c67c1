import { expect, it } from 'vitest';
import { apart, frameAtSecond, secondOf } from './filmTime.ts';

const rates = [
  { num: 24, den: 1 },
  { num: 24_000, den: 1001 },
  { num: 25, den: 1 },
  { num: 60_000, den: 1001 },
];
it('goes to a frame and is on it, at every rate and to the end of a long film', () => {
  for (const fps of rates)
    for (const frame of [0, 1, 2, 47, 1000, 99_999])
      expect(frameAtSecond(secondOf(frame, fps), fps, 100_000)).toBe(frame);
});
it('goes to the middle of a frame: a clock that is nearly half a frame off is still on it', () => {
  for (const fps of rates)
    for (const by of [-0.45, 0.45])
      expect(frameAtSecond(secondOf(12, fps) + (by * fps.den) / fps.num, fps, 100)).toBe(12);
});
it('takes a timestamp for its own frame, though it was rounded down to the ticks of the file', () => {
  // 1/90000 s is the usual tick of MPEG-4 files (ISO/IEC 14496-14; from memory); two of them off
  for (const fps of rates)
    for (const frame of [1, 7, 240]) {
      const stamp = (frame * fps.den) / fps.num;
      expect(frameAtSecond(stamp - 2 / 90_000, fps, 1000)).toBe(frame);
      expect(frameAtSecond(stamp - apart(fps), fps, 1000)).toBe(frame - 1);
    }
});
it('stays within the film', () => {
  expect(frameAtSecond(-1, rates[0]!, 10)).toBe(0);
  expect(frameAtSecond(99, rates[0]!, 10)).toBe(9);
});
