import { expect, it } from 'vitest';
import { isStorable, Name, unstorableAt } from './text.ts';

const HALF = '\ud800';

it('tells texts that PostgreSQL or UTF-8 cannot hold: NUL, half a surrogate pair', () => {
  expect(['', 'Crème', '😀', 'a\0', `a${HALF}`].map(isStorable)).toEqual([true, true, true, false, false]);
});

it('finds the first such text in a JSON value and says where', () => {
  expect(unstorableAt('a\0')).toBe('');
  expect(unstorableAt({ name: 'x', layers: [{ name: 'ok' }, { name: HALF }] })).toBe('layers.1.name');
  expect(unstorableAt({ a: { [`k${HALF}`]: 1 } })).toBe('a.(key)');
  for (const plain of [null, 3, true, 'x', [], { a: [null, 1, 'x'] }]) expect(unstorableAt(plain)).toBeUndefined();
});

it('takes a name without the spaces round it, and none of spaces only', () => {
  expect(Name.parse('  Slow Morning ')).toBe('Slow Morning');
  expect(Name.safeParse('   ').success).toBe(false);
  expect([120, 121].map((n) => Name.safeParse('x'.repeat(n)).success)).toEqual([true, false]);
});
