import { expect, it } from 'vitest';
import { documentWith, shape } from '../commands/testing.ts';
import { applyEdit, type PlainEdit } from './optimistic.ts';
import { RemovedRevisions } from './removed.ts';

const removal = (id: string): PlainEdit => ({ kind: 'shot', id, value: null });
function page() {
  const [document, removed] = [documentWith([shape('a')]), new RemovedRevisions()];
  const edit = (...edits: PlainEdit[]) => {
    removed.keep(document, edits);
    for (const one of edits) applyEdit(document, one);
  };
  return { document, removed, edit };
}

it('what was removed is sent with the revision it had, though the document holds it no more', () => {
  const { document, removed, edit } = page();
  edit(removal('s1'));
  expect(document.shots.map((s) => s.value.id)).toEqual(['s2']);
  expect(removed.revisionFor(document, removal('s1'))).toBe(1);
});
it('an edit before it that is answered late counts', () => {
  const { document, removed, edit } = page();
  const value = { ...document.shots[0]!.value, name: 'Renamed' };
  edit({ kind: 'shot', id: 's1', value });
  edit(removal('s1'));
  removed.acknowledge({ revisions: { s1: 2 } });
  expect(removed.revisionFor(document, removal('s1'))).toBe(2);
});
it('an edit that is sent once its removal is waiting behind it has the revision that was known', () => {
  const { document, removed, edit } = page();
  const renamed = { kind: 'shot', id: 's1', value: { ...document.shots[0]!.value, name: 'Renamed' } } as const;
  edit(renamed);
  edit(removal('s1'));
  expect(removed.revisionFor(document, renamed)).toBe(1);
});
it('what was made and removed before the server had answered has the revision of that answer', () => {
  const { document, removed, edit } = page();
  edit({ kind: 'shot', id: 'new', value: { ...document.shots[0]!.value, id: 'new' as never } });
  edit(removal('new'));
  expect(removed.revisionFor(document, removal('new'))).toBeNull();
  removed.acknowledge({ revisions: { new: 1 } });
  expect(removed.revisionFor(document, removal('new'))).toBe(1);
});
it('what the document holds has the revision that stands there', () => {
  const { document, removed, edit } = page();
  edit(removal('s1'));
  // it has come back by undo, and is another revision
  document.shots.push({ value: { ...document.shots[0]!.value, id: 's1' as never }, revision: 5 });
  const value = document.shots[1]!.value;
  expect(removed.revisionFor(document, { kind: 'shot', id: 's1', value })).toBe(5);
  expect(removed.revisionFor(document, removal('s1'))).toBe(5);
});
