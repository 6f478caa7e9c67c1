import { describe, expect, it } from 'vitest';
import type { Presence } from '@mellow/contract';
import { othersOf } from './others.ts';
import { initials } from './roleText.ts';

describe('initials', () => {
  it.each([
    ['Anna Bell', 'AB'],
    ['  Anna Maria   Bell ', 'AB'],
    ['anna', 'A'],
    ['Ørsted Åkesson', 'ØÅ'],
    ['🦊 Fox', '🦊F'],
    ['', ''],
  ])('of “%s” are %s', (name, letters) => expect(initials(name)).toBe(letters));
});

describe('others', () => {
  const page = (personId: string, name: string, shotId: string | null): Presence =>
    ({ page: crypto.randomUUID(), personId, name, shotId }) as Presence;
  it('are each named once, with every shot that their pages are at, and oneself is not among them', () => {
    const pages = [
      page('c', 'Cara', 'one'),
      page('me', 'Me', 'one'),
      page('b', 'Ben', 'two'),
      page('c', 'Cara', 'two'),
      page('c', 'Cara', 'one'),
      page('b', 'Ben', null),
    ];
    expect(othersOf(pages, 'me')).toEqual([
      { personId: 'b', name: 'Ben', shotIds: ['two'] },
      { personId: 'c', name: 'Cara', shotIds: ['one', 'two'] },
    ]);
  });
});
