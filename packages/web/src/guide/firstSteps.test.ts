import { expect, it } from 'vitest';
import { answered, FIRST_STEPS, wasOffered } from './firstSteps.ts';

it('are offered until they are answered', () => {
  const kept = new Map<string, string>();
  const storage = {
    getItem: (k: string) => kept.get(k) ?? null,
    setItem: (k: string, v: string) => void kept.set(k, v),
  };
  expect(wasOffered(storage)).toBe(false);
  answered(storage);
  expect(wasOffered(storage)).toBe(true);
});
it('are five, short, and go through the stages in their order', () => {
  expect(FIRST_STEPS.map((s) => s.stage)).toEqual(['isolate', 'isolate', 'recolour', 'lineup', 'deliver']);
  expect(Math.max(...FIRST_STEPS.map((s) => s.text.length))).toBeLessThan(120);
});
