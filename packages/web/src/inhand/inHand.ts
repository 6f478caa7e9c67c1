// What is in hand: shot, piece, colourway and what hangs on them.
import {
  framesOf,
  type Media,
  type ProjectDocument,
  type Recipe,
  type Requirement,
  type RunResult,
  type Shot,
  type Sighting,
  type Track,
  type Span,
} from '@mellow/contract';
import { knownMotions, type Motions, type TrackMotion } from '@mellow/core';
import type { Where } from '../view/whereSlice.ts';

export interface InHand {
  document: ProjectDocument;
  shot: Shot | undefined;
  media: Media | undefined;
  /** The frames of the shot; undefined without one. */
  span: Span | undefined;
  piece: ProjectDocument['pieces'][number]['value'] | undefined;
  colourwayId: ProjectDocument['colourways'][number]['value']['id'] | undefined;
  sighting: Sighting | undefined;
  recipe: Recipe | undefined;
  requirement: Requirement | undefined;
  /** Tracks of the shot, and what is known of their motion. */
  tracks: Track[];
  motions: Motions;
  /** The same for any shot. */
  motionsOf: (shotId: string) => Motions;
  runs: readonly RunResult[];
}
const NO_MOTIONS: Motions = new Map();

/** What is known of the motion of all tracks, shot by shot. */
export function motionsByShot(tracks: ProjectDocument['tracks'], runs: readonly RunResult[]): Map<string, Motions> {
  const found = new Map(runs.map((r) => [r.runId, r.frames]));
  const shots = new Map<string, Map<string, TrackMotion>>();
  for (const { value } of tracks) {
    const of = shots.get(value.shotId) ?? new Map<string, TrackMotion>();
    const motion = knownMotions(value, (id) => found.get(id) ?? []);
    shots.set(value.shotId, of.set(value.id, motion));
  }
  return shots;
}

/** What the ids of the view stand for; the first of each kind where one is not, or no longer, there. */
export function inHandOf(
  document: ProjectDocument,
  { shotId, pieceId, colourwayId }: Pick<Where, 'shotId' | 'pieceId' | 'colourwayId'>,
  motions: ReadonlyMap<string, Motions>,
  runs: readonly RunResult[],
): InHand {
  const chosen = <T extends { id: string }>(rows: { value: T }[], id: string | null): T | undefined =>
    (rows.find((row) => row.value.id === id) ?? rows[0])?.value;
  const shot = chosen(document.shots, shotId);
  const piece = chosen(document.pieces, pieceId);
  const colourway = chosen(document.colourways, colourwayId);
  const ofPiece = <T extends { pieceId: string; colourwayId: string }>(rows: { value: T }[]): T | undefined =>
    rows.find((r) => r.value.pieceId === piece?.id && r.value.colourwayId === colourway?.id)?.value;
  const motionsOf = (id: string): Motions => motions.get(id) ?? NO_MOTIONS;
  const media = document.media.find((m) => m.id === shot?.mediaId);
  return {
    document,
    shot,
    media,
    span: shot && media && framesOf(shot, media),
    piece,
    colourwayId: colourway?.id,
    sighting: document.sightings.find((s) => s.value.pieceId === piece?.id && s.value.shotId === shot?.id)?.value,
    recipe: ofPiece(document.recipes),
    requirement: ofPiece(document.requirements),
    tracks: document.tracks.map((t) => t.value).filter((t) => t.shotId === shot?.id),
    motions: motionsOf(shot?.id ?? ''),
    motionsOf,
    runs,
  };
}
