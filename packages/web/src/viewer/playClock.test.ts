import { expect, it } from 'vitest';
import { PlayClock } from './playClock.ts';

/**
 * Plays on a screen of 60 Hz; `readyAt` says when a frame has been computed. Gives the times the frames were shown at.
 */
function play(fps: number, ms: number, readyAt: (frame: number) => number) {
  const clock = new PlayClock(fps, 0);
  const shown: number[] = [];
  for (let tick = 0; tick * (1000 / 60) <= ms; tick++) {
    const now = tick * (1000 / 60);
    if (!clock.isDue(now) || readyAt(shown.length + 1) > now) continue;
    clock.advance(now);
    shown.push(now);
  }
  return { shown, fps: clock.fps };
}

it.each([24, 25, 30, 23.976])('keeps to %f frames a second when all is ready', (rate) => {
  const { shown, fps } = play(rate, 10_000, () => 0);
  expect(Math.abs(shown.length - 10 * rate)).toBeLessThanOrEqual(1);
  expect(fps).toBeCloseTo(rate, 0);
  // never two frames on one tick of the screen, nor one more than a tick late
  shown.forEach((t, i) => expect(t - (1000 * (i + 1)) / rate).toBeLessThan(1000 / 60));
});
it('shows every frame when they come slowly, and says so', () => {
  const { shown, fps } = play(24, 10_000, (frame) => frame * 125);
  // the n-th is there after n · 125 ms
  expect(shown.length).toBe(80);
  expect(fps).toBeCloseTo(8, 0);
});
it('does not hurry to make up for a frame that was waited for', () => {
  const { shown } = play(24, 3000, (frame) => (frame >= 10 ? 2000 : 0));
  const after = shown.filter((t) => t >= 2000);
  expect(after[0]).toBeCloseTo(2000, 0);
  for (let i = 1; i < after.length; i++) expect(after[i]! - after[i - 1]!).toBeGreaterThan(30);
});
