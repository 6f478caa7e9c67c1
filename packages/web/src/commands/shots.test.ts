import { describe, expect, it } from 'vitest';
import type { ProjectDocument, Shot } from '@mellow/contract';
import { moveShotTo, removeShot, renameShot } from './shots.ts';

const shots = ['a', 'b', 'c', 'd'].map(
  (id, i) => ({ id, name: id.toUpperCase(), position: 2 * i + 1 }) as unknown as Shot,
);
const document = { shots: shots.map((value) => ({ value })) } as unknown as ProjectDocument;
/** Names in the order of the reel after a change. */
const after = (from: number, to: number): string => {
  const { edits } = moveShotTo(document, shots[from]!, to);
  const changed = new Map(edits.map((e) => [e.id, e.value as Shot]));
  return shots
    .map((s) => changed.get(s.id) ?? s)
    .sort((x, y) => x.position - y.position)
    .map((s) => s.name)
    .join('');
};

describe('a shot in the reel', () => {
  it('is put at another place, the shots between move up', () => {
    expect([after(0, 2), after(3, 1), after(1, 3), after(2, 0)]).toEqual(['BCAD', 'ADBC', 'ACDB', 'CABD']);
  });
  it('goes no farther than the ends, and stays with no edit where it is', () => {
    expect([after(1, -1), after(1, 9)]).toEqual(['BACD', 'ACDB']);
    expect(moveShotTo(document, shots[1]!, 1).edits).toEqual([]);
  });
  it('changes only the shots that move', () =>
    expect(moveShotTo(document, shots[0]!, 1).edits.map((e) => e.id)).toEqual(['b', 'a']));
  it('is removed, and renamed unless the name is empty or the same', () => {
    expect(removeShot(shots[0]!)).toEqual({ label: 'Remove A', edits: [{ kind: 'shot', id: 'a', value: null }] });
    expect(renameShot(shots[0]!, ' New ').edits[0]!.value).toMatchObject({ name: 'New' });
    expect([renameShot(shots[0]!, ' ').edits, renameShot(shots[0]!, 'A').edits]).toEqual([[], []]);
  });
});
