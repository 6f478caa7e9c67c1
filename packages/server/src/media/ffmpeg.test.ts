import { expect, it } from 'vitest';
import { FfmpegFailed } from './ffmpeg.ts';

it.each([
  ['/srv/media/ab/film.mp4: Invalid data found', 'the file: Invalid data found'],
  ['/srv/media/ab/not a film.mp4: Invalid data found', 'the file: Invalid data found'],
  ['Error opening input file /srv/new media/a, b.mov.', 'Error opening input file the file.'],
  ["Could not open '/srv/media/über (2).mkv'", "Could not open 'the file'"],
  ['/srv/a.mp4: no more of /srv/b c.mp4: it ends', 'the file: no more of the file: it ends'],
  ['[mov @ 0x5581] [error] moov atom not found', 'moov atom not found'],
  ['a rate of 24000/1001 is not told', 'a rate of 24000/1001 is not told'],
  ['', 'no reason given'],
])('“%s” is told without a path', (said, told) => {
  expect(new FfmpegFailed(said).message).toBe(told);
});
