import { EventEmitter } from 'node:events';
import { beforeEach, expect, it } from 'vitest';
import type { Person } from '@mellow/contract';
import { EventHub } from './events.ts';

/** A browser's end of a stream, which closes when it is told to and not before. */
class Ear extends EventEmitter {
  heard = '';
  isEnded = false;
  writeHead = () => this;
  write = (text: string) => {
    if (this.isEnded) throw new Error('write after end');
    this.heard += text;
    return true;
  };
  end = () => void (this.isEnded = true);
}
const anna = { id: 'anna', name: 'Anna' } as Person;
let hub: EventHub;
beforeEach(() => void (hub = new EventHub('postgres://nobody@127.0.0.1:1/none')));
function listen(person: Person | null): Ear {
  const ear = new Ear();
  hub.subscribe('film', ear as never, crypto.randomUUID(), person);
  return ear;
}
const lastCount = ({ heard }: Ear) => /"here":(\d+)[^]*$/.exec(heard.slice(heard.lastIndexOf('event: present')))?.[1];

it('writes nothing to whoever was ended, though all of their windows close one after the other', () => {
  const [windows, other] = [[listen(anna), listen(anna)], listen(null)];
  expect(lastCount(other)).toBe('3');
  hub.endOf('anna');
  for (const window of windows) window.emit('close');
  expect(windows.map((w) => w.isEnded)).toEqual([true, true]);
  expect([other.isEnded, lastCount(other)]).toEqual([false, '1']);
});
it('ends with all of them', async () => {
  const ears = [listen(anna), listen(null), listen(null)];
  await hub.close();
  for (const ear of ears) ear.emit('close');
  expect(ears.map((e) => e.isEnded)).toEqual([true, true, true]);
});
