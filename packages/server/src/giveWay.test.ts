import { readdirSync, readFileSync } from 'node:fs';
import { getPriority } from 'node:os';
import { expect, it } from 'vitest';
import { TrackThread } from './track/trackThread.ts';
import { runInTurn } from './media/ffmpegProcess.ts';
import { GIVES_WAY, letGiveWay } from './giveWay.ts';

/** The nice values of this process's threads: field 19 of what proc(5) tells of each, its name being the second. */
const niceValues = (): number[] =>
  readdirSync('/proc/self/task').map((thread) => {
    const fields = readFileSync(`/proc/self/task/${thread}/stat`, 'utf8').split(') ').at(-1)!;
    return Number(fields.split(' ')[19 - 3]);
  });

/** Where these tests give way themselves it cannot be told. */
const canTell = process.platform === 'linux' && getPriority() < GIVES_WAY;
it.runIf(canTell)('a thread that works gives way, and no other of its process does', async () => {
  const [own, before] = [getPriority(), niceValues().filter((nice) => nice === GIVES_WAY).length];
  const thread = new TrackThread();
  await thread.warmUp();
  expect(niceValues().filter((nice) => nice === GIVES_WAY)).toHaveLength(before + 1);
  expect(getPriority()).toBe(own);
  await thread.close();
});
it('ffmpeg gives way', async () => {
  const args = ['-v', 'error', '-f', 'lavfi', '-i', 'color=size=16x16', '-t', '1', '-f', 'null', '-'];
  let nice = NaN;
  await runInTurn('ffmpeg', args, { use: (child) => void (nice = getPriority(child.pid)) });
  expect(nice).toBe(Math.max(getPriority(), GIVES_WAY));
});
it('what has ended need not give way', () => {
  expect(() => letGiveWay(2 ** 22 + 1)).not.toThrow();
});
