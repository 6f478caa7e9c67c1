import type { ProjectDocument, Requirement, RequirementId } from '@mellow/contract';
import type { Change } from '../editing/change.ts';
import { pieceIn, type Place } from './place.ts';

export type RequirementNumbers = Pick<
  Requirement,
  'name' | 'lab' | 'illuminant' | 'tolerance' | 'note' | 'asInShotId' | 'of'
>;

/** States the colour that the piece in hand must have in the colourway in hand, or states it anew. */
export function stateRequirement(document: ProjectDocument, place: Place, stated: RequirementNumbers): Change {
  const { pieceId, colourwayId } = place;
  const piece = pieceIn(document, place);
  const name = stated.name.trim() || 'Required';
  const label = `Require ${name} for ${piece?.name ?? 'no piece'}`;
  if (!pieceId || !colourwayId) return { label, edits: [] };
  const before = document.requirements.find(
    (r) => r.value.pieceId === pieceId && r.value.colourwayId === colourwayId,
  )?.value;
  const { lab, illuminant, tolerance, note, asInShotId, of } = stated;
  const id = before?.id ?? (crypto.randomUUID() as RequirementId);
  const projectId = document.project.value.id;
  const value = { id, projectId, pieceId, colourwayId, name, lab, illuminant, tolerance, note, asInShotId, of };
  return { label, edits: [{ kind: 'requirement', id, value }] };
}
