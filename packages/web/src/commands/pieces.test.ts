import { describe, expect, it } from 'vitest';
import type { Piece, ProjectDocument } from '@mellow/contract';
import { addPiece, changePiece, duplicatePiece, removePiece } from './pieces.ts';

const piece = { id: 'p', projectId: 'x', name: 'Lark', kind: 'product', position: 3, partOf: null } as unknown as Piece;
const document = {
  project: { value: { id: 'x' } },
  pieces: [{ value: piece }],
  sightings: [
    { value: { id: 's', pieceId: 'p', shotId: 'one', layers: ['a layer'] } },
    { value: { id: 't', pieceId: 'q', shotId: 'one', layers: [] } },
  ],
  requirements: [{ value: { id: 'r', pieceId: 'p', colourwayId: 'w' } }],
  recipes: [{ value: { id: 'c', pieceId: 'p', colourwayId: 'w', strength: 0.5 } }],
} as unknown as ProjectDocument;

describe('pieces', () => {
  it('are added behind all others, however many have been removed', () => {
    const { change, pieceId } = addPiece(document, { name: ' Scarf ', kind: 'garment' });
    expect(change.edits).toEqual([
      { kind: 'piece', id: pieceId, value: expect.objectContaining({ name: 'Scarf', position: 4 }) },
    ]);
  });
  it('take another name or kind, and are left alone by an empty name or the same', () => {
    expect(changePiece(piece, { name: ' Wren ' }).edits[0]?.value).toEqual({ ...piece, name: 'Wren' });
    expect(changePiece(piece, { kind: 'prop' }).edits[0]?.value).toEqual({ ...piece, kind: 'prop' });
    expect([changePiece(piece, { name: '  ' }).edits, changePiece(piece, { name: 'Lark' }).edits]).toEqual([[], []]);
  });
  it('are removed', () => expect(removePiece(piece).edits).toEqual([{ kind: 'piece', id: 'p', value: null }]));
  it('are duplicated with what is theirs and nothing of others, under ids of their own', () => {
    const { change, pieceId } = duplicatePiece(document, piece);
    expect(change.edits.map((e) => e.kind)).toEqual(['piece', 'sighting', 'requirement', 'recipe']);
    const [, sighting, , recipe] = change.edits;
    expect(sighting!.value).toMatchObject({ id: sighting!.id, pieceId, shotId: 'one', layers: ['a layer'] });
    expect(recipe!.value).toMatchObject({ pieceId, strength: 0.5 });
    expect(new Set(change.edits.map((e) => e.id)).size).toBe(4);
    expect(change.edits.map((e) => e.id)).not.toContain('s');
  });
});
