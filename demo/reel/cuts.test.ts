// Cuts between the demo's shots, on which nothing of their measure was tuned: moving cameras, a focus pull, an
// occluder.
import { execFileSync } from 'node:child_process';
import { join } from 'node:path';
import { expect, it } from 'vitest';
import { findCuts, frameLook, type FrameLook } from '@mellow/core';
import { words } from '../../packages/server/src/media/words.ts';

const [W, H, FRAMES] = [64, 36, 48];
const SHOTS = ['shot-1-platform', 'shot-2-cafe', 'shot-3-street', 'shot-4-turn', 'shot-5-gate'];
function looksOf(shot: string): FrameLook[] {
  const file = join(import.meta.dirname, '../media', `${shot}.mp4`);
  const args = [...words('-v error -i'), file, '-vf', `scale=${W}:${H}:flags=area`, ...words('-f rawvideo -pix_fmt')];
  const bytes = execFileSync('ffmpeg', [...args, 'rgb24', '-'], { maxBuffer: 1e8 });
  return Array.from({ length: FRAMES }, (_, i) => frameLook(bytes.subarray(i * 3 * W * H, (i + 1) * 3 * W * H), W, H));
}

it('are all found, and none else, in whatever order they follow one another', () => {
  const looks = SHOTS.map(looksOf);
  for (const order of [
    [0, 1, 2, 3, 4],
    [4, 2, 0, 3, 1],
    [0, 4, 1, 3, 2],
    [2, 1, 4, 0, 3],
  ]) {
    const cuts = findCuts(order.flatMap((shot) => looks[shot]!));
    expect(cuts.map((c) => c.frame)).toEqual([48, 96, 144, 192]);
    for (const { certainty } of cuts) expect(certainty).toBeGreaterThan(0.5);
  }
  // cut short: eight frames of each
  const short = findCuts(looks.flatMap((all) => all.slice(20, 28)));
  expect(short.map((c) => c.frame)).toEqual([8, 16, 24, 32]);
});
