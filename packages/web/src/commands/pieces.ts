import type { Piece, PieceId, ProjectDocument, RecipeId, RequirementId, SightingId } from '@mellow/contract';
import type { Change } from '../editing/change.ts';

/** A new piece, recoloured after all others. */
export function addPiece(
  document: ProjectDocument,
  { name, kind, partOf = null }: Pick<Piece, 'name' | 'kind'> & { partOf?: PieceId | null },
): { change: Change; pieceId: PieceId } {
  const id = crypto.randomUUID() as PieceId;
  const projectId = document.project.value.id;
  const value: Piece = { id, projectId, name: name.trim(), kind, position: nextPosition(document), partOf };
  return { change: { label: `Add the ${kind} ${value.name}`, edits: [{ kind: 'piece', id, value }] }, pieceId: id };
}
const nextPosition = (document: ProjectDocument): number =>
  Math.max(-1, ...document.pieces.map((p) => p.value.position)) + 1;

/** Another name or kind for a piece; no change where the name is empty or all is as it was. */
export function changePiece(piece: Piece, to: Partial<Pick<Piece, 'name' | 'kind'>>): Change {
  const value = { ...piece, ...to, name: to.name?.trim() ?? piece.name };
  const isNew = value.name !== '' && (value.name !== piece.name || value.kind !== piece.kind);
  return { label: `Change the piece ${piece.name}`, edits: isNew ? [{ kind: 'piece', id: piece.id, value }] : [] };
}
/** With its mattes, requirements and recipes. */
export const removePiece = ({ id, name }: Piece): Change => ({
  label: `Remove the piece ${name}`,
  edits: [{ kind: 'piece', id, value: null }],
});

/** A piece with the mattes, requirements and recipes of another, in every shot and colourway. */
export function duplicatePiece(document: ProjectDocument, piece: Piece): { change: Change; pieceId: PieceId } {
  const id = crypto.randomUUID() as PieceId;
  const value: Piece = { ...piece, id, name: `${piece.name} copy`, position: nextPosition(document) };
  const isOwn = ({ value: each }: { value: { pieceId: string } }) => each.pieceId === piece.id;
  const edits: Change['edits'] = [
    { kind: 'piece', id, value },
    ...document.sightings.filter(isOwn).map(({ value: each }) => {
      const own = crypto.randomUUID() as SightingId;
      return { kind: 'sighting' as const, id: own, value: { ...each, id: own, pieceId: id } };
    }),
    ...document.requirements.filter(isOwn).map(({ value: each }) => {
      const own = crypto.randomUUID() as RequirementId;
      return { kind: 'requirement' as const, id: own, value: { ...each, id: own, pieceId: id } };
    }),
    ...document.recipes.filter(isOwn).map(({ value: each }) => {
      const own = crypto.randomUUID() as RecipeId;
      return { kind: 'recipe' as const, id: own, value: { ...each, id: own, pieceId: id } };
    }),
  ];
  return { change: { label: `Duplicate the piece ${piece.name}`, edits }, pieceId: id };
}
