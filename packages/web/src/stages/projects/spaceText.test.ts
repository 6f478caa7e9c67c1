import { expect, it } from 'vitest';
import type { Space } from '@mellow/contract';
import { deletedText, rulesText } from './spaceText.ts';

const space: Space = {
  projects: [],
  unusedBytes: 0,
  freeBytes: 1,
  diskBytes: 2,
  projectBytes: null,
  keepRemovedDays: null,
  keepRendersDays: null,
};
const now = Date.parse('2026-03-10T12:00:00Z');

it('says in how many days a removed project is deleted, and nothing where nobody deletes it', () => {
  const removed = { removedAt: '2026-03-08T12:00:00.000Z' };
  expect(deletedText(removed, space, now)).toBeUndefined();
  expect(deletedText({ removedAt: null }, { keepRemovedDays: 30 }, now)).toBeUndefined();
  expect(deletedText(removed, { keepRemovedDays: 30 }, now)).toBe('deleted for good in 28 days');
  expect(deletedText(removed, { keepRemovedDays: 3 }, now + 1)).toBe('deleted for good in 1 day');
  expect(deletedText(removed, { keepRemovedDays: 2 }, now)).toBe('about to be deleted for good');
});
it('says the rules there are', () => {
  expect(rulesText(space)).toEqual(['A removed project stays until somebody deletes it.']);
  expect(rulesText({ ...space, projectBytes: 5e11, keepRemovedDays: 1, keepRendersDays: 60 })).toEqual([
    'A project may have 500 GB of footage.',
    'A removed project is deleted for good after 1 day.',
    'A render is deleted after 60 days.',
  ]);
});
