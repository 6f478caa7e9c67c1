import type { Piece, PieceId, ProjectDocument } from '@mellow/contract';
import type { Change } from '../editing/change.ts';

/** A new piece, recoloured after all others. */
export function addPiece(
  document: ProjectDocument,
  { name, kind, partOf = null }: Pick<Piece, 'name' | 'kind'> & { partOf?: PieceId | null },
): { change: Change; pieceId: PieceId } {
  const id = crypto.randomUUID() as PieceId;
  const projectId = document.project.value.id;
  const value: Piece = { id, projectId, name: name.trim(), kind, position: document.pieces.length, partOf };
  return { change: { label: `Add the ${kind} ${value.name}`, edits: [{ kind: 'piece', id, value }] }, pieceId: id };
}
