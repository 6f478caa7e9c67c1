import { expect, it } from 'vitest';
import { numbered, placeText } from './noteText.ts';

it('says a frame by its timecode and its number, counted from where the shot begins', () => {
  const shot = { firstFrame: 100, fps: { num: 25, den: 1 }, timecode: '01:00:04:00' };
  expect(placeText(shot, 100)).toBe('01:00:04:00 · frame 100');
  expect(placeText(shot, 126)).toBe('01:00:05:01 · frame 126');
  expect(placeText({ ...shot, timecode: null }, 126)).toBe('frame 126');
});
it('numbers notes by their frames, and on one frame by when they were written', () => {
  const notes = [
    { frame: 9, at: '2026-01-02T00:00:00Z', text: 'c' },
    { frame: 3, at: '2026-01-03T00:00:00Z', text: 'b' },
    { frame: 3, at: '2026-01-01T00:00:00Z', text: 'a' },
  ];
  expect(numbered(notes).map((n) => [n.number, n.text])).toEqual([
    [1, 'a'],
    [2, 'b'],
    [3, 'c'],
  ]);
  expect(notes[0]!.text).toBe('c');
});
