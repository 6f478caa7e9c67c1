import { once } from 'node:events';
import { join } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import { Worker } from 'node:worker_threads';
import { afterEach, expect, it } from 'vitest';
import { until } from '../testing/harness.ts';
import { Turns } from './turns.ts';

const MODULE = join(import.meta.dirname, 'turns.ts');
/** A thread that asks for a turn, says when it has it, and gives it back when it is told to. */
const ASKING = `
  const { parentPort, workerData: { name, atOnce } } = require('node:worker_threads');
  const told = require('node:events').once(parentPort, 'message');
  import('tsx/esm/api').then(async ({ register }) => {
    register();
    const { Turns } = await import(${JSON.stringify(MODULE)});
    const turns = new Turns(name, atOnce);
    parentPort.postMessage('asks');
    await turns.run(async () => {
      parentPort.postMessage('has it');
      await told;
    });
    parentPort.postMessage('gave it back');
  });`;

const threads: Worker[] = [];
afterEach(async () => void (await Promise.all(threads.splice(0).map((thread) => thread.terminate()))));

/** Another thread, and how it says something next. */
function asking(name: string, atOnce: number) {
  const thread = new Worker(ASKING, { eval: true, workerData: { name, atOnce } });
  threads.push(thread);
  const said: string[] = [];
  thread.on('message', (what: string) => said.push(what));
  const says = async (what: string) => {
    while (!said.includes(what)) await once(thread, 'message');
  };
  return { says, said, go: () => thread.postMessage('go') };
}
/** A turn that is kept until it is given back. */
function kept(turns: Turns) {
  let [isBegun, giveBack] = [false, () => undefined as void];
  const gone = new Promise<void>((resolve) => (giveBack = resolve));
  const ended = turns.run(() => {
    isBegun = true;
    return gone;
  });
  return { ended, giveBack, isBegun: () => isBegun };
}

it('what another thread has under way is waited for, and the other way round', async () => {
  const turns = new Turns('two', 2);
  const other = asking('two', 2);
  await other.says('has it');
  const [first, second] = [kept(turns), kept(turns)];
  const third = asking('two', 2);
  await third.says('asks');
  const begun = () => [first.isBegun(), second.isBegun(), third.said.includes('has it')];
  await pause(50);
  expect(begun()).toEqual([true, false, false]);
  other.go();
  await other.says('gave it back');
  // who has waited for longest, in whichever thread
  await until('its turn', async () => second.isBegun());
  await pause(50);
  expect(begun()).toEqual([true, true, false]);
  for (const one of [first, second]) one.giveBack();
  await Promise.all([first.ended, second.ended, third.says('has it')]);
  third.go();
  await third.says('gave it back');
});
it('work that fails gives its turn back, and others of another name have their own', async () => {
  const turns = new Turns('one', 1);
  await expect(turns.run(() => Promise.reject(new Error('it broke')))).rejects.toThrow('it broke');
  const first = kept(turns);
  await new Turns('another', 1).run(async () => undefined);
  first.giveBack();
  await first.ended;
  expect(await turns.run(async () => 'again')).toBe('again');
});
it('a turn is had now only where one is free and nobody waits', async () => {
  const turns = new Turns('now', 1);
  const first = turns.takeNow()!;
  expect(turns.takeNow()).toBeUndefined();
  const waiting = turns.take();
  first.giveBack();
  // said twice, it is given back once
  first.giveBack();
  expect(turns.takeNow()).toBeUndefined();
  (await waiting).giveBack();
  turns.takeNow()!.giveBack();
});
it('as many are told to make room as there are that wait', async () => {
  const turns = new Turns('room', 3);
  const [one, two, three] = [turns.takeNow()!, turns.takeNow()!, turns.takeNow()!];
  const areWanted = () => [one, two, three].map((turn) => turn.isWanted());
  expect(areWanted()).toEqual([false, false, false]);
  const [fourth, fifth] = [turns.take(), turns.take()];
  expect(areWanted()).toEqual([true, true, false]);
  one.giveBack();
  expect(one.isWanted()).toBe(true);
  const later = await fourth;
  // whom the first made room for has it: nobody else is to
  expect([later, three].map((turn) => turn.isWanted())).toEqual([false, false]);
  two.giveBack();
  (await fifth).giveBack();
});
it('begins what was asked first in its thread first', async () => {
  const turns = new Turns('in order', 1);
  const order: number[] = [];
  await Promise.all([1, 2, 3, 4].map((n) => turns.run(async () => void order.push(n))));
  expect(order).toEqual([1, 2, 3, 4]);
});
