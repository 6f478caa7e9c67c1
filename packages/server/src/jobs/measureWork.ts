import { createHash } from 'node:crypto';
import { z } from 'zod';
import {
  balanceOf,
  frameCount,
  framesOf,
  proxySize,
  rendersOfShot,
  SightingId,
  sharesChroma,
  type FrameMeasurement,
  type Media,
  ProjectId,
  type Shot,
  type ShotRenderSighting,
} from '@mellow/contract';
import { compile, isScribbled, sightingAt } from '@mellow/core';
import { breather } from '../breather.ts';
import { queueAllKeyed } from '../db/keyedWork.ts';
import { findMedia } from '../db/media.ts';
import { measured, saveMeasurements, storedInputs } from '../db/measurements.ts';
import { projects, sightings as sightingStore } from '../db/entities.ts';
import type { Queryable } from '../db/pool.ts';
import { projectDocument, shotDocument, type ShotDocument } from '../db/projects.ts';
import { decodeFrames } from '../media/decode.ts';
import { measuredFrames } from '../media/keptFrames.ts';
import { sharedRenderPool } from '../render/renderPool.ts';
import { carriedMasks } from '../render/carriedMasks.ts';
import { matteKey, measuredMattes } from '../render/keptMattes.ts';
import { openPlates } from '../render/plates.ts';
import { openSeen } from '../render/seenFrames.ts';
import { withAround } from '../render/window.ts';
import { motionsOfShot } from '../track/motions.ts';
import { whenQuiet } from './interactive.ts';
import { notify } from '../db/notify.ts';
import type { KeyedWork } from './queue.ts';

const Payload = z.object({ sightingId: SightingId });
/**
 * A piece's mean colour does not need every pixel: at this width a piece still has thousands of them, and the ribbon
 * follows an edit four times as fast as at proxy size. They are picked out of the full picture: averaged, their grain
 * would be cut off less by the ends of the encoding than it is in the render.
 */
const MEASURE_WIDTH = 480;
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

/**
 * Measures one sighting on every frame, in all colourways that need it, from 16-bit frames scaled down. Gives up
 * when an edit overtakes it: that edit has queued its own measurement.
 */
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
  const stored = (await findMedia(pool, shot.mediaId))!;
  const span = framesOf(shot, stored.media);
  const index = rendersOfShot(document, shot.id, stale[0]!.colourwayId).sightings.findIndex((s) => s.id === sightingId);
  const variants = stale.map(({ colourwayId }) =>
    rendersOfShot(document, shot.id, colourwayId).renders.slice(0, index + 1),
  );
  const motions = await motionsOfShot(pool, document, shot.id);
  const { width, height, scale } = proxySize(stored.media.width, stored.media.height, MEASURE_WIDTH);

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
  const frames = stale.map((): FrameMeasurement[] => []);
  let done = 0;
  const plates = await openPlates(pool, store, variants[0]!, { width, height }, overtaken.signal);
  const seen = openSeen(store, stored, variants[0]!, span, overtaken.signal);
  try {
    const pending: Promise<void>[] = [];
    const reach = Math.max(0, ...variants[0]!.map((r) => r.steadyFrames ?? 0));
    const rendersAt = (at: number) => variants.map((renders) => renders.map((r) => sightingAt(r, at, motions)));
    const task = async (at: number) => {
      const sightings = rendersAt(at)[0]!;
      const carried = await carriedMasks(pool, sightings);
      return { sightings, seen: await seen.next(), plates: await plates.frame(at), carried };
    };
    const decode = (from: number) =>
      decodeFrames(store, stored, {
        size: { width, height },
        signal: overtaken.signal,
        by: 'picked',
        span: { from: span.from + from, to: span.to },
      });
    const what = JSON.stringify([stored, width, height, span.from]);
    const decoded = measuredFrames.frames(what, frameCount(span), decode);
    for await (const { at, ...frame } of withAround(decoded, reach, task, span.from)) {
      await whenQuiet(overtaken.signal);
      const now = rendersAt(at);
      const colourways = now.map((renders) => renders.map((r) => r.program));
      const asked = {
        ...frame,
        // its memory stays here, as where there are frames around it: it is kept
        around: frame.around ?? [],
        encoding: shot.encoding,
        scale,
        balance: balanceOf(shot),
        sharesChroma: sharesChroma(stored.media),
      };
      const keys = asked.sightings.map((_, k) => matteKey(`${what} ${at}`, asked, k));
      const mattes = keys.map((key) => (key ? measuredMattes.get(key) : undefined));
      const taken = sharedRenderPool()
        // the frames around are for what mattes are still to be made
        .measure({ ...asked, around: mattes.every(Boolean) ? [] : asked.around, index, colourways, mattes })
        .then((measured) => {
          for (const [k, matte] of measured.mattes.entries()) if (matte && keys[k]) measuredMattes.set(keys[k], matte);
          done++;
          measured.colourways.forEach((m, c) => m && frames[c]!.push({ frame: at, ...m }));
          if (done % 8 === 0)
            void notify(pool, projectId, 'measuring', { sightingId, done, total: frameCount(span) }).catch(
              () => undefined,
            );
        });
      // of frames that are under way only the first failure is waited for
      taken.catch(() => undefined);
      pending.push(taken);
      if (pending.length >= 4) await pending.shift();
    }
    await Promise.all(pending);
  } catch (error) {
    if (overtaken.signal.aborted && !stopping.aborted) return;
    throw error;
  } finally {
    clearInterval(check);
    await seen.close();
    await plates.close();
    stopping.removeEventListener('abort', stop);
  }
  if (await isOvertaken()) return;
  for (const [c, { colourwayId, inputs }] of stale.entries())
    await saveMeasurements(
      pool,
      sightingId,
      colourwayId,
      inputs,
      frames[c]!.sort((a, b) => a.frame - b.frame),
      done,
    );
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
