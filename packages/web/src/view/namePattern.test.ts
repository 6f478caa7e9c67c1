import { expect, it } from 'vitest';
import { PLAIN_PATTERN } from '@mellow/contract';
import { keepPattern, keptPattern } from './namePattern.ts';

it('names files as the last time, and plainly where what was kept is no good', () => {
  const kept = new Map<string, string>();
  const storage = {
    getItem: (key: string) => kept.get(key) ?? null,
    setItem: (key: string, value: string) => void kept.set(key, value),
  };
  expect(keptPattern(storage)).toBe(PLAIN_PATTERN);
  keepPattern(storage, '{project} v{n}');
  expect(keptPattern(storage)).toBe('{project} v{n}');
  keepPattern(storage, '{gone}');
  expect(keptPattern(storage)).toBe(PLAIN_PATTERN);
});
