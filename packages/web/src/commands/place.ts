import type { ColourwayId, Piece, PieceId, ProjectDocument, Recipe, Shot, ShotId, Sighting } from '@mellow/contract';
import type { Keyframing, Motions } from '@mellow/core';

/** Where a command acts: what is in hand, the frame, how edits meet keyframes, and where the shot's tracks are. */
export interface Place {
  shotId: ShotId | undefined;
  pieceId: PieceId | undefined;
  colourwayId: ColourwayId | undefined;
  layerId: string | null;
  frame: number;
  keyframing: Keyframing;
  motions: Motions;
}

export const shotIn = (document: ProjectDocument, place: Place): Shot | undefined =>
  document.shots.find((s) => s.value.id === place.shotId)?.value;
export const pieceIn = (document: ProjectDocument, place: Place): Piece | undefined =>
  document.pieces.find((p) => p.value.id === place.pieceId)?.value;
/** The piece in the shot, if any of it has been isolated there. */
export const sightingIn = (document: ProjectDocument, place: Place): Sighting | undefined =>
  document.sightings.find((s) => s.value.pieceId === place.pieceId && s.value.shotId === place.shotId)?.value;
export const recipeIn = (document: ProjectDocument, place: Place): Recipe | undefined =>
  document.recipes.find((r) => r.value.pieceId === place.pieceId && r.value.colourwayId === place.colourwayId)?.value;
