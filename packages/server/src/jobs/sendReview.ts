import { randomBytes, randomUUID } from 'node:crypto';
import {
  frameCount,
  framesOf,
  timecodeAfter,
  type NewReview,
  type ProjectDocument,
  type SentPage,
  type Shot,
} from '@mellow/contract';
import { insertReview, insertReviewFilm, insertReviewSighting } from '../db/reviews.ts';
import type { Queryable } from '../db/pool.ts';
import { NotFound } from '../errors.ts';
import { measurementInputs } from './measureWork.ts';
import { assertSomeLook, queueRendersOfShot } from './queueRenders.ts';

/** Bytes of chance in a link: nobody guesses it. */
const TOKEN_BYTES = 24;

/** The rows of these ids, in the document's order. Throws NotFound. */
function chosen<T extends { id: string }>(what: string, rows: readonly { value: T }[], ids: readonly string[]): T[] {
  for (const id of ids) if (!rows.some((row) => row.value.id === id)) throw new NotFound(what, id);
  return rows.map((row) => row.value).filter(({ id }) => ids.includes(id));
}

/** What the client sees of a shot. */
function sentShot(document: ProjectDocument, shot: Shot): SentPage['shots'][number] {
  const media = document.media.find((m) => m.id === shot.mediaId)!;
  const { width, height, fps } = media;
  const span = framesOf(shot, media);
  return {
    id: shot.id,
    name: shot.name,
    width,
    height,
    fps,
    firstFrame: span.from,
    frames: frameCount(span),
    timecode: (media.timecode && timecodeAfter(media.timecode, fps, span.from)) || null,
    sightings: document.pieces.flatMap(({ value: piece }) =>
      document.sightings
        .map((s) => s.value)
        .filter((s) => s.pieceId === piece.id && s.shotId === shot.id && s.layers.length > 0)
        .map(({ id }) => ({ id, name: piece.name })),
    ),
  };
}

/**
 * Sends shots for review as they are now, in the caller's transaction: their films are queued, as filmed and in each
 * colourway, and what each sighting's picture depends on is kept. The id of the review. Throws NotFound and Refused.
 */
export async function sendReview(db: Queryable, document: ProjectDocument, asked: NewReview): Promise<string> {
  const { id: projectId, name: projectName } = document.project.value;
  const shots = chosen('shot', document.shots, asked.shotIds);
  if (asked.withLook) assertSomeLook(document, shots);
  const colourways = chosen('colourway', document.colourways, asked.colourwayIds);
  const page: SentPage = {
    projectName,
    colourways: colourways.map(({ id, name }) => ({ id, name })),
    shots: shots.map((shot) => sentShot(document, shot)),
  };
  const [id, token] = [randomUUID(), randomBytes(TOKEN_BYTES).toString('base64url')];
  await insertReview(db, { id, projectId, name: asked.name, token, page, daysValid: asked.daysValid });
  let position = 0;
  for (const shot of shots) {
    const films = { shot, colourways: [null, ...colourways], preset: 'h264', withLook: asked.withLook } as const;
    const deliveryIds = await queueRendersOfShot(db, document, films);
    for (const [i, colourway] of films.colourways.entries()) {
      const of = { shotId: shot.id, colourwayId: colourway?.id ?? null, position: position++ };
      await insertReviewFilm(db, { reviewId: id, deliveryId: deliveryIds[i]!, ...of });
    }
  }
  const inputsOf = measurementInputs(document);
  for (const sightingId of page.shots.flatMap((shot) => shot.sightings.map((s) => s.id)))
    for (const { id: colourwayId } of colourways) {
      const inputs = inputsOf(sightingId, colourwayId)!;
      await insertReviewSighting(db, { reviewId: id, sightingId, colourwayId, inputs });
    }
  return id;
}
