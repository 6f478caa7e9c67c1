import { expect, it } from 'vitest';
import type { ProjectCard } from '@mellow/contract';
import { listed } from './listed.ts';

const card = (name: string, shots: number, day: number, more: Partial<ProjectCard> = {}) =>
  ({ name, shots, updatedAt: `2026-01-0${day}T00:00:00Z`, state: 'open', pieces: [], ...more }) as ProjectCard;
const projects = [
  card('Morning 10', 3, 1, { pieces: [{ name: 'Lark', from: null, to: null }] }),
  card('Morning 9', 5, 3),
  card('Evening', 5, 2),
  card('Old', 1, 4, { state: 'archived' }),
];
const names = (more: Partial<Parameters<typeof listed>[1]>) =>
  listed(projects, { state: 'open', search: '', order: 'edited', ...more }).map((p) => p.name);

it('are those of a state, in the order that was chosen; numbers in names count as numbers', () => {
  expect(names({})).toEqual(['Morning 9', 'Evening', 'Morning 10']);
  expect(names({ order: 'name' })).toEqual(['Evening', 'Morning 9', 'Morning 10']);
  expect(names({ order: 'shots' })).toEqual(['Evening', 'Morning 9', 'Morning 10']);
  expect(names({ state: 'archived' })).toEqual(['Old']);
});
it('are found by words of their name and of their pieces’, in any case and order', () => {
  expect(names({ search: ' lark MORN ' })).toEqual(['Morning 10']);
  expect(names({ search: 'morn' })).toEqual(['Morning 9', 'Morning 10']);
  expect(names({ search: 'nothing' })).toEqual([]);
});
