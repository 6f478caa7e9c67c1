import { expect, it } from 'vitest';
import type { ProjectDocument } from '@mellow/contract';
import { acknowledge, applyEdit, revisionOf, type PlainEdit } from './optimistic.ts';

const document = () =>
  ({
    project: { value: { id: 'p', name: 'P', tolerance: 1, referenceShotId: null }, revision: 3 },
    shots: [{ value: { id: 's', position: 0 }, revision: 2 }],
    pieces: [{ value: { id: 'a', name: 'Lark' }, revision: 5 }],
    colourways: [],
    requirements: [{ value: { id: 'r', pieceId: 'a' }, revision: 1 }],
    recipes: [],
    sightings: [{ value: { id: 'x', pieceId: 'a', shotId: 's' }, revision: 1 }],
    tracks: [{ value: { id: 't', shotId: 's' }, revision: 1 }],
    trackedFrames: {},
    media: [],
    proxies: {},
    history: { undo: null, redo: null },
  }) as unknown as ProjectDocument;
const edit = (kind: string, id: string, value: unknown) => ({ kind, id, value }) as unknown as PlainEdit;

it('shows an edit at once but keeps the acknowledged revision until the answer', () => {
  const d = document();
  applyEdit(d, edit('piece', 'a', { id: 'a', name: 'Lark suitcase' }));
  expect(d.pieces[0]).toEqual({ value: { id: 'a', name: 'Lark suitcase' }, revision: 5 });
  acknowledge(d, { seq: 1, revisions: { a: 6, p: 4 }, history: { undo: 'Rename', redo: null } });
  expect([revisionOf(d, 'piece', 'a'), revisionOf(d, 'project', 'p'), d.history.undo]).toEqual([6, 4, 'Rename']);
});
it('gives a new thing no revision before the server has one', () => {
  const d = document();
  applyEdit(d, edit('piece', 'b', { id: 'b', name: 'Scarf', position: 1 }));
  expect(revisionOf(d, 'piece', 'b')).toBeNull();
  acknowledge(d, { seq: 1, revisions: { b: 1 }, history: { undo: null, redo: null } });
  expect(revisionOf(d, 'piece', 'b')).toBe(1);
});
it('takes what hangs on a removed piece or shot away too', () => {
  const d = document();
  applyEdit(d, edit('piece', 'a', null));
  expect([d.pieces, d.requirements, d.sightings]).toEqual([[], [], []]);
  const e = document();
  applyEdit(e, edit('shot', 's', null));
  expect([e.shots, e.sightings, e.tracks]).toEqual([[], [], []]);
});
