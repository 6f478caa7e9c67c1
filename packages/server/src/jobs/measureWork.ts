import { createHash } from 'node:crypto';
import { z } from 'zod';
import {
  frameCount,
  framesOf,
  rendersOfShot,
  SightingId,
  type Media,
  ProjectId,
  type Shot,
  type ShotRenderSighting,
} from '@mellow/contract';
import { compile, isScribbled } from '@mellow/core';
import { breather } from '../breather.ts';
import { queueAllKeyed } from '../db/keyedWork.ts';
import { findMedia } from '../db/media.ts';
import { measured, saveMeasurements, storedInputs } from '../db/measurements.ts';
import { projects, sightings as sightingStore } from '../db/entities.ts';
import type { Queryable } from '../db/pool.ts';
import { projectDocument, shotDocument, type ShotDocument } from '../db/projects.ts';
import { motionsOfShot } from '../track/motions.ts';
import { MEASURE_WIDTH, measureFrames } from './measureFrames.ts';
import { notify } from '../db/notify.ts';
import type { KeyedWork } from './queue.ts';

const Payload = z.object({ sightingId: SightingId });
/** Edits come in bursts while a hand moves: measure when it rests. */
const REST_SECONDS = 0.3;

type InputsOf = (sightingId: string, colourwayId: string) => string | undefined;
/**
 * Hash of all that a sighting's measurement depends on: footage, encoding, its stack, and the recipes and stacks of
 * the pieces that are recoloured before it in the same shot. Undefined when the sighting is not in the document. What
 * the sightings of a shot have in common is worked out once for all of them.
 */
export function measurementInputs(document: ShotDocument): InputsOf {
  const byId = <T extends { id: string }>(all: readonly T[]) => new Map<string, T>(all.map((one) => [one.id, one]));
  const sightings = byId(document.sightings.map((s) => s.value));
  const shots = byId(document.shots.map((s) => s.value));
  const media = byId(document.media);
  const known = new Map<string, Map<string, string>>();
  return (sightingId, colourwayId) => {
    const shot = shots.get(sightings.get(sightingId)?.shotId ?? '');
    const footage = shot && media.get(shot.mediaId);
    if (!shot || !footage) return undefined;
    const key = `${shot.id} ${colourwayId}`;
    let ofShot = known.get(key);
    if (!ofShot) known.set(key, (ofShot = inputsOfShot(document, shot, footage, colourwayId)));
    return ofShot.get(sightingId);
  };
}
/** The same for all sightings of a shot, by their ids. */
function inputsOfShot(document: ShotDocument, shot: Shot, media: Media, colourwayId: string): Map<string, string> {
  const { renders, sightings } = rendersOfShot(document, shot.id, colourwayId);
  const depends = renders.map(dependsOn);
  const tracks = tracksUsed(document, shot.id);
  return new Map(
    sightings.map(({ id }, upTo) => {
      const inputs = [
        8,
        media.sha256,
        shot.encoding,
        shot.balance,
        MEASURE_WIDTH,
        depends.slice(0, upTo + 1),
        tracks,
        // of shots that show all of their footage nothing is said: what was measured of them stands
        ...(shot.span ? [shot.span] : []),
        // what strokes select is decided on the picture that the viewer has
        ...(renders.slice(0, upTo + 1).some((r) => isScribbled(r.layers)) ? ['as seen'] : []),
        ...(media.stated || media.isDeinterlaced ? [[media.matrix, media.range, media.isDeinterlaced]] : []),
      ];
      return [id, createHash('sha256').update(JSON.stringify(inputs)).digest('hex')];
    }),
  );
}

/** What a render's measurement depends on: its matte, its compiled recolour, and the keyframes of both. */
function dependsOn(render: ShotRenderSighting): unknown {
  const { match, repaint, shift, finer, strength, light, trim, body, encoding, ...rest } = render;
  return { ...rest, program: compile({ match, repaint, shift, finer, strength }, light, trim, body, encoding) };
}

/** What is known of a shot's tracks, in short: their stored form, and how many frames each run has. */
const tracksUsed = (document: ShotDocument, shotId: string) =>
  document.tracks
    .filter((t) => t.value.shotId === shotId)
    .map(({ value }) => [
      value.id,
      value.referenceFrame,
      value.region,
      value.manual,
      value.runs.map((r) => [r, document.trackedFrames[r.id] ?? 0]),
    ]);

/** The colourways in which what is stored of a sighting no longer holds, with the hash of what it depends on now. */
function staleColourways(
  document: ShotDocument,
  sightingId: string,
  inputsOf: InputsOf,
  stored: ReadonlyMap<string, string>,
): { colourwayId: string; inputs: string }[] {
  return document.colourways.flatMap(({ value: { id: colourwayId } }) => {
    const inputs = inputsOf(sightingId, colourwayId);
    return inputs === undefined || inputs === stored.get(measured(sightingId, colourwayId))
      ? []
      : [{ colourwayId, inputs }];
  });
}

/** Schedules every sighting whose stored measurement no longer holds. */
export async function scheduleStaleMeasurements(db: Queryable, projectId: string): Promise<void> {
  const document = await projectDocument(db, projectId);
  const stored = await storedInputs(db, projectId);
  const inputsOf = measurementInputs(document);
  const found: string[] = [];
  // a thousand sightings take a while: whoever asks the server for something meanwhile is answered
  const breathe = breather();
  for (const { value } of document.sightings) {
    if (staleColourways(document, value.id, inputsOf, stored).length > 0) found.push(value.id);
    await breathe();
  }
  if (found.length > 0) await queueMeasurements(db, found);
}
/** Looks through what was measured of a project after an edit. Of one that is gone there is nothing to look through. */
export const lookThroughWork: KeyedWork = async ({ pool }, payload) => {
  const { projectId } = z.object({ projectId: ProjectId }).parse(payload);
  if (await projects.find(pool, projectId)) await scheduleStaleMeasurements(pool, projectId);
};
export async function scheduleAllStaleMeasurements(db: Queryable): Promise<void> {
  const { rows } = await db.query<{ id: string }>('select id from project');
  for (const { id } of rows) await scheduleStaleMeasurements(db, id);
}
export async function scheduleMeasurementsOfMedia(db: Queryable, mediaId: string): Promise<void> {
  const { rows } = await db.query<{ project_id: string }>('select distinct project_id from shot where media_id = $1', [
    mediaId,
  ]);
  for (const row of rows) await scheduleStaleMeasurements(db, row.project_id);
}

/** Measures a sighting in all colourways that need it. Gives up when an edit overtakes it, which has queued its own. */
export const measureWork: KeyedWork = async ({ pool, store }, payload, stopping) => {
  const { sightingId } = Payload.parse(payload);
  const sighting = await sightingStore.find(pool, sightingId);
  if (!sighting) return;
  const projectId = sighting.value.projectId;
  const read = () => shotDocument(pool, projectId, sighting.value.shotId);
  const document = await read();
  const known = await storedInputs(pool, projectId);
  const stale = staleColourways(document, sightingId, measurementInputs(document), known);
  if (stale.length === 0) return;
  const shot = document.shots.find((s) => s.value.id === sighting.value.shotId)!.value;
  const media = (await findMedia(pool, shot.mediaId))!;
  const span = framesOf(shot, media.media);
  const variants = stale.map(({ colourwayId }) => {
    const { sightings, renders } = rendersOfShot(document, shot.id, colourwayId);
    return renders.slice(0, sightings.findIndex((s) => s.id === sightingId) + 1);
  });
  const motions = await motionsOfShot(pool, document, shot.id);

  const overtaken = new AbortController();
  const stop = () => overtaken.abort();
  stopping.addEventListener('abort', stop);
  const isOvertaken = async () => {
    const inputsNow = measurementInputs(await read());
    return stale.some(({ colourwayId, inputs }) => inputsNow(sightingId, colourwayId) !== inputs);
  };
  const check = setInterval(
    () =>
      void isOvertaken().then(
        (yes) => yes && overtaken.abort(),
        () => undefined,
      ),
    500,
  );
  const tell = (done: number) => {
    if (done % 8 > 0) return;
    const told = { sightingId, done, total: frameCount(span) };
    void notify(pool, projectId, 'measuring', told).catch(() => undefined);
  };
  let found: Awaited<ReturnType<typeof measureFrames>>;
  try {
    found = await measureFrames(pool, store, { shot, media, span, motions, variants }, overtaken.signal, tell);
  } catch (error) {
    if (overtaken.signal.aborted && !stopping.aborted) return;
    throw error;
  } finally {
    clearInterval(check);
    stopping.removeEventListener('abort', stop);
  }
  if (await isOvertaken()) return;
  for (const [c, { colourwayId, inputs }] of stale.entries())
    await saveMeasurements(pool, sightingId, colourwayId, inputs, found.frames[c]!, found.done);
  // an edit meanwhile that took back the one before found what is stored as it should be, and queued nothing
  if (await isOvertaken()) await queueMeasurements(pool, [sightingId]);
  await notify(pool, projectId, 'measured', { sightingId });
};
const queueMeasurements = (db: Queryable, sightingIds: readonly string[]): Promise<void> =>
  queueAllKeyed(
    db,
    'measure',
    sightingIds.map((sightingId) => ({ key: `measure:${sightingId}`, payload: { sightingId } })),
    REST_SECONDS,
  );
