import { expect, it } from 'vitest';
import { labFromLinear709 } from '@mellow/core';
import { comparedWith, labText, lchText } from './colour.ts';

it('a colour past white is said to be out of range, not given a lightness that there is not', () => {
  expect(lchText({ L: 53.24, a: 80.09, b: 67.2 })).toBe('L 53.2 C 104.5 h 40.0°');
  expect(labText({ L: 53.24, a: 80.09, b: 67.2 })).toBe('53.2 80.1 67.2');
  expect(lchText({ L: 100, a: 0, b: 0 })).toMatch(/^L 100/);
  for (const text of [lchText, labText]) expect(text({ L: 728, a: 3, b: 4 })).toBe('out of range');
});

it('what is compared with a requirement is the body’s colour where that is required and told apart', () => {
  const after = { lab: { L: 50, a: 0, b: 0 }, meanLinear: [0.2, 0.2, 0.2] as [number, number, number] };
  const glossy = { ...after, body: [0.1, 0.1, 0.15] as [number, number, number] };
  const of = (what: 'mean' | 'body') => ({ of: what }) as never;
  expect(comparedWith(of('mean'), glossy)).toBe(glossy);
  expect(comparedWith(undefined, glossy)).toBe(glossy);
  expect(comparedWith(of('body'), after)).toBe(after);
  const body = comparedWith(of('body'), glossy);
  expect([body.meanLinear, body.lab]).toEqual([glossy.body, labFromLinear709(glossy.body)]);
});
