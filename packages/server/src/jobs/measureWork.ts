import { createHash } from 'node:crypto';
import { z } from 'zod';
import { ColourwayId, PROXY_WIDTH, proxySize, SightingId, type FrameMeasurement, type ProjectDocument } from '@mellow/contract';
import { findMedia } from '../db/media.ts';
import { saveMeasurements, storedInputs } from '../db/measurements.ts';
import { sightings as sightingStore } from '../db/entities.ts';
import type { Queryable } from '../db/pool.ts';
import { projectDocument } from '../db/projects.ts';
import { decodeFrames } from '../media/decode.ts';
import { sharedRenderPool } from '../render/renderPool.ts';
import { sightingsOfShot } from '../render/sightingsOfShot.ts';
import { notify, queueKeyed, type KeyedWork } from './queue.ts';

const Payload = z.object({ sightingId: SightingId, colourwayId: ColourwayId });
/** Edits come in bursts while a hand moves: measure when it rests. */
const REST_SECONDS = 0.3;

/**
 * Hash of all that a sighting's measurement depends on: footage, encoding, its stack, and the recipes and stacks of
 * the pieces that are recoloured before it in the same shot. Undefined when the sighting is not in the document.
 */
export function measurementInputs(document: ProjectDocument, sightingId: string, colourwayId: string): string | undefined {
  const sighting = document.sightings.find((s) => s.value.id === sightingId);
  const shot = sighting && document.shots.find((s) => s.value.id === sighting.value.shotId);
  const media = shot && document.media.find((m) => m.id === shot.value.mediaId);
  if (!shot || !media) return undefined;
  const { renders, ids } = sightingsOfShot(document, shot.value.id, colourwayId);
  const upTo = ids.indexOf(sighting.value.id);
  return createHash('sha256').update(JSON.stringify([1, media.sha256, shot.value.encoding, PROXY_WIDTH, renders.slice(0, upTo + 1)])).digest('hex');
}

export async function scheduleMeasurement(db: Queryable, sightingId: string, colourwayId: string): Promise<void> {
  await queueKeyed(db, 'measure', `measure:${sightingId}:${colourwayId}`, { sightingId, colourwayId }, REST_SECONDS);
}
/** Schedules every sighting whose stored measurement no longer holds. */
export async function scheduleStaleMeasurements(db: Queryable, projectId: string): Promise<void> {
  const document = await projectDocument(db, projectId);
  for (const { value: sighting } of document.sightings)
    for (const { value: colourway } of document.colourways) {
      const inputs = measurementInputs(document, sighting.id, colourway.id);
      if (inputs && inputs !== (await storedInputs(db, sighting.id, colourway.id))) await scheduleMeasurement(db, sighting.id, colourway.id);
    }
}
export async function scheduleMeasurementsOfMedia(db: Queryable, mediaId: string): Promise<void> {
  const { rows } = await db.query<{ project_id: string }>('select distinct project_id from shot where media_id = $1', [mediaId]);
  for (const row of rows) await scheduleStaleMeasurements(db, row.project_id);
}

/** Measures one sighting on every frame, at proxy size from 16-bit frames. Gives up when an edit overtakes it. */
export const measureWork: KeyedWork = async ({ pool, store }, payload, stopping) => {
  const { sightingId, colourwayId } = Payload.parse(payload);
  const sighting = await sightingStore.find(pool, sightingId);
  if (!sighting) return;
  const projectId = sighting.value.projectId;
  const document = await projectDocument(pool, projectId);
  const inputs = measurementInputs(document, sightingId, colourwayId);
  if (!inputs || inputs === (await storedInputs(pool, sightingId, colourwayId))) return;
  const shot = document.shots.find((s) => s.value.id === sighting.value.shotId)!.value;
  const stored = (await findMedia(pool, shot.mediaId))!;
  const { renders, ids } = sightingsOfShot(document, shot.id, colourwayId);
  const index = ids.indexOf(sightingId);
  const { width, height, scale } = proxySize(stored.media.width, stored.media.height);

  const overtaken = new AbortController();
  const stop = () => overtaken.abort();
  stopping.addEventListener('abort', stop);
  const check = setInterval(() => {
    void projectDocument(pool, projectId).then((now) => measurementInputs(now, sightingId, colourwayId) !== inputs && overtaken.abort(), () => undefined);
  }, 1000);
  const frames: FrameMeasurement[] = [];
  let done = 0;
  try {
    const pending: Promise<void>[] = [];
    let frame = 0;
    for await (const codes of decodeFrames(store, stored, { width, height }, overtaken.signal)) {
      const at = frame++;
      pending.push(
        sharedRenderPool().measure({ codes, encoding: shot.encoding, scale, sightings: renders.slice(0, index + 1), index }).then((measured) => {
          done++;
          if (measured) frames.push({ frame: at, ...measured });
          if (done % 8 === 0) void notify(pool, projectId, 'measuring', { sightingId, colourwayId, done, total: stored.media.frames }).catch(() => undefined);
        }),
      );
      if (pending.length >= 4) await pending.shift();
    }
    await Promise.all(pending);
  } catch (error) {
    if (stopping.aborted) throw error;
    if (overtaken.signal.aborted) return; // the edit that overtook this has queued its own measurement
    throw error;
  } finally {
    clearInterval(check);
    stopping.removeEventListener('abort', stop);
  }
  frames.sort((a, b) => a.frame - b.frame);
  await saveMeasurements(pool, sightingId, colourwayId, inputs, frames, done);
  await notify(pool, projectId, 'measured', { sightingId, colourwayId });
};
