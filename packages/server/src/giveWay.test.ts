import { readdirSync, readFileSync } from 'node:fs';
import { getPriority } from 'node:os';
import { expect, it } from 'vitest';
import { GIVES_WAY, letGiveWay } from './giveWay.ts';
import { spawnDecoder, spawnEncoder } from './media/ffmpeg.ts';
import { RenderPool } from './render/renderPool.ts';

/** The nice values of this process's threads: field 19 of what proc(5) tells of each, its name being the second. */
const niceValues = (): number[] =>
  readdirSync('/proc/self/task').map((thread) => {
    const fields = readFileSync(`/proc/self/task/${thread}/stat`, 'utf8').split(') ').at(-1)!;
    return Number(fields.split(' ')[19 - 3]);
  });
const givingWay = () => niceValues().filter((nice) => nice === GIVES_WAY).length;

it.runIf(process.platform === 'linux')('a render thread gives way, and no other of its process does', async () => {
  const [own, before] = [getPriority(), givingWay()];
  const pool = new RenderPool(1);
  await expect(pool.hashOfTiff(new Uint8Array(8))).rejects.toThrow();
  expect(givingWay()).toBe(before + 1);
  expect(getPriority()).toBe(own);
  await pool.close();
});
it('an encoder gives way, what somebody waits for does not', async () => {
  const nothing = ['-f', 'lavfi', '-i', 'color=size=16x16', '-t', '1', '-f', 'null', '-'];
  const [encoder, { decoder }] = [await spawnEncoder(nothing), await spawnDecoder(nothing)];
  expect([getPriority(encoder.pid), getPriority(decoder.pid)]).toEqual([GIVES_WAY, getPriority()]);
  for (const child of [encoder, decoder]) child.kill('SIGKILL');
});
it('what has ended need not give way', () => {
  expect(() => letGiveWay(2 ** 22 + 1)).not.toThrow();
});
