import { expect, it, vi } from 'vitest';
import { SaidLater } from './SaidLater.ts';

it('keeps what is said until somebody hears it, in order, and calls for them once', () => {
  const wanted = vi.fn();
  const later = new SaidLater<string[]>(wanted);
  later.say((heard) => void heard.push('a'));
  later.say((heard) => void heard.push('b'));
  const heard: string[] = [];
  later.heardBy(heard);
  later.say((all) => void all.push('c'));
  expect(heard).toEqual(['a', 'b', 'c']);
  expect(wanted).toHaveBeenCalledTimes(1);
});
it('waits again when they have gone, and says nothing twice', () => {
  const wanted = vi.fn();
  const later = new SaidLater<string[]>(wanted);
  const [first, second]: [string[], string[]] = [[], []];
  later.heardBy(first);
  later.heardBy(undefined);
  later.say((heard) => void heard.push('a'));
  later.heardBy(second);
  expect([first, second]).toEqual([[], ['a']]);
  expect(wanted).toHaveBeenCalledTimes(1);
});
