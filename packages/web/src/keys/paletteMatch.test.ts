import { expect, it } from 'vitest';
import { entryOf, COMMAND_IDS } from './keyTable.ts';
import { paletteMatch } from './paletteMatch.ts';

const found = (typed: string): string[] =>
  COMMAND_IDS.map((id) => ({
    name: entryOf(id).name,
    score: paletteMatch(entryOf(id).name, typed, [entryOf(id).place]),
  }))
    .filter(({ score }) => score > 0)
    .sort((a, b) => b.score - a.score)
    .map(({ name }) => name);

it('finds every command first by its own name, whatever the case', () => {
  for (const id of COMMAND_IDS) expect(found(entryOf(id).name.toUpperCase())[0]).toBe(entryOf(id).name);
});
it('finds by parts of words in any order, and by the place, the beginnings of words first', () => {
  expect(found('mid room')).toEqual(['Mid room']);
  expect(found('room brig')).toEqual(['Bright room']);
  expect(found('doubt')).toEqual(['Doubtful frame before', 'Doubtful frame after']);
  expect(found('line-up')).toContain('Solve all');
  expect(found('fra')[0]).toMatch(/^Fra|\bfra/);
});
it('finds nothing by letters that only follow one another', () => expect(found('mdrm')).toEqual([]));
