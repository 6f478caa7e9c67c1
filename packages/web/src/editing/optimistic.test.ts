import { expect, it } from 'vitest';
import type { ProjectDocument } from '@mellow/contract';
import { acknowledge, applyEdit, revisionOf, type PlainEdit } from './optimistic.ts';

const document = () =>
  ({
    project: { value: { id: 'p', name: 'P', tolerance: 1, referenceShotId: null, look: null }, revision: 3 },
    shots: [{ value: { id: 's', position: 0 }, revision: 2 }],
    pieces: [{ value: { id: 'a', name: 'Lark' }, revision: 5 }],
    colourways: [],
    requirements: [{ value: { id: 'r', pieceId: 'a' }, revision: 1 }],
    recipes: [],
    sightings: [{ value: { id: 'x', pieceId: 'a', shotId: 's' }, revision: 1 }],
    tracks: [{ value: { id: 't', shotId: 's' }, revision: 1 }],
    versions: [{ value: { id: 'v', pieceId: 'a', colourwayId: 'c' }, revision: 1 }],
    stills: [{ value: { id: 'k', shotId: 's' }, revision: 1 }],
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
it('takes what hangs on a removed piece or shot away too, and nothing of others', () => {
  const others = document();
  others.pieces.push({ value: { id: 'b' }, revision: 1 } as never);
  others.shots.push({ value: { id: 's2', position: 1 }, revision: 1 } as never);
  others.requirements.push({ value: { id: 'r2', pieceId: 'b' }, revision: 1 } as never);
  for (const id of ['a', 'b'])
    others.recipes.push({ value: { id: `recipe-${id}`, pieceId: id }, revision: 1 } as never);
  others.sightings.push({ value: { id: 'y', pieceId: 'b', shotId: 's2' }, revision: 1 } as never);
  others.tracks.push({ value: { id: 't2', shotId: 's2' }, revision: 1 } as never);
  const left = (d: ProjectDocument) =>
    [d.pieces, d.shots, d.requirements, d.recipes, d.sightings, d.tracks].map((rows) => rows.map((r) => r.value.id));

  const withoutPiece = structuredClone(others);
  applyEdit(withoutPiece, edit('piece', 'a', null));
  expect(left(withoutPiece)).toEqual([['b'], ['s', 's2'], ['r2'], ['recipe-b'], ['y'], ['t', 't2']]);
  const withoutShot = structuredClone(others);
  applyEdit(withoutShot, edit('shot', 's', null));
  expect(left(withoutShot)).toEqual([['a', 'b'], ['s2'], ['r', 'r2'], ['recipe-a', 'recipe-b'], ['y'], ['t2']]);
  const withoutTrack = structuredClone(others);
  applyEdit(withoutTrack, edit('track', 't', null));
  applyEdit(withoutTrack, edit('track', 'gone', null));
  expect(left(withoutTrack)).toEqual([
    ['a', 'b'],
    ['s', 's2'],
    ['r', 'r2'],
    ['recipe-a', 'recipe-b'],
    ['x', 'y'],
    ['t2'],
  ]);
});
it('takes the kept versions of a piece or colourway and the stills of a shot away with it', () => {
  const kept = (edited: PlainEdit) => {
    const d = document();
    d.versions.push({ value: { id: 'w', pieceId: 'b', colourwayId: 'd' }, revision: 1 } as never);
    d.stills.push({ value: { id: 'l', shotId: 's2' }, revision: 1 } as never);
    d.requirements.push({ value: { id: 'r3', pieceId: 'b', colourwayId: 'd' }, revision: 1 } as never);
    applyEdit(d, edited);
    return [d.versions, d.stills, d.requirements].map((rows) => rows.map((r) => r.value.id));
  };
  expect(kept(edit('piece', 'a', null))).toEqual([['w'], ['k', 'l'], ['r3']]);
  expect(kept(edit('shot', 's', null))).toEqual([['v', 'w'], ['l'], ['r', 'r3']]);
  expect(kept(edit('colourway', 'd', null))).toEqual([['v'], ['k', 'l'], ['r']]);
});
it('renames the project itself, and never removes it', () => {
  const d = document();
  applyEdit(d, edit('project', 'p', { ...d.project.value, name: 'Q' }));
  applyEdit(d, edit('project', 'p', null));
  expect(d.project).toMatchObject({ value: { name: 'Q' }, revision: 3 });
});
it('keeps shots and pieces in their order, other things as they came', () => {
  const d = document();
  applyEdit(d, edit('shot', 's2', { id: 's2', position: -1 }));
  applyEdit(d, edit('piece', 'b', { id: 'b', position: -1 }));
  applyEdit(d, edit('colourway', 'one', { id: 'one', position: 5 }));
  applyEdit(d, edit('colourway', 'two', { id: 'two', position: 2 }));
  const ids = [d.shots, d.pieces, d.colourways].map((rows) => rows.map((r) => r.value.id));
  expect(ids).toEqual([
    ['s2', 's'],
    ['b', 'a'],
    ['one', 'two'],
  ]);
});
