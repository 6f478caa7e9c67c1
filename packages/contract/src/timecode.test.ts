import { describe, expect, it } from 'vitest';
import { framesOfTimecode, timecodeAfter } from './timecode.ts';

const [FILM, PAL, NTSC, NTSC60] = [
  { num: 24, den: 1 },
  { num: 25, den: 1 },
  { num: 30_000, den: 1001 },
  { num: 60_000, den: 1001 },
];

describe('timecode', () => {
  // SMPTE ST 12-1:2014, 9.3: 00 and 01 are dropped at each minute but every tenth; an hour is 107 892 frames
  it.each([
    ['01:00:00:00', FILM, 86_400],
    ['10:00:00:12', PAL, 900_012],
    ['00:00:59;29', NTSC, 1799],
    ['00:01:00;02', NTSC, 1800],
    ['00:09:59;29', NTSC, 17_981],
    ['00:10:00;00', NTSC, 17_982],
    ['01:00:00;00', NTSC, 107_892],
    ['01:00:00:00', NTSC, 108_000],
    ['00:01:00;04', NTSC60, 3600],
  ])('%s at %j is frame %d', (text, fps, frame) => expect(framesOfTimecode(text, fps)).toBe(frame));
  it.each([
    ['00:00:00:24', FILM],
    ['00:60:00:00', FILM],
    ['00:01:00;01', NTSC],
    ['1:00:00:00', FILM],
    ['soon', FILM],
  ])('%s is none of %j', (text, fps) => {
    expect(framesOfTimecode(text, fps)).toBeUndefined();
    expect(timecodeAfter(text, fps, 1)).toBeUndefined();
  });
  it('goes on frame by frame over minutes, tens of minutes and the day, and comes back', () => {
    expect(timecodeAfter('00:00:59;29', NTSC, 1)).toBe('00:01:00;02');
    expect(timecodeAfter('00:09:59;29', NTSC, 1)).toBe('00:10:00;00');
    expect(timecodeAfter('00:00:00;00', NTSC, 107_892)).toBe('01:00:00;00');
    expect(timecodeAfter('23:59:59:23', FILM, 1)).toBe('00:00:00:00');
    expect(timecodeAfter('01:00:00:00', FILM, -1)).toBe('00:59:59:23');
    for (let by = 0; by < 40_000; by += 7)
      expect(framesOfTimecode(timecodeAfter('00:00:00;00', NTSC, by)!, NTSC)).toBe(by);
  });
});
