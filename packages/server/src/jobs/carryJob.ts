import type pg from 'pg';
import { z } from 'zod';
import { Balance, Encoding, MediaId, RunId, ScribbleLayer, SightingId, type CarryRun } from '@mellow/contract';
import { carriedFrom, maskOfBytes } from '@mellow/core';
import { carryFrames } from '../carry/carryFrames.ts';
import { CarryThread } from '../carry/carryThread.ts';
import { clearKeptCarriers, dropKeptCarrier, keptCarrierPath, markOf } from '../carry/keptCarrier.ts';
import { findCarryRun, listCarriedMasks, saveCarried } from '../db/carryRuns.ts';
import { findMedia, type StoredMedia } from '../db/media.ts';
import { notify } from '../db/notify.ts';
import { sightings } from '../db/entities.ts';
import { interactive } from './interactive.ts';
import { scheduleStaleMeasurements } from './measureWork.ts';
import { isCancelled, type JobServices, type JobWork } from './queue.ts';

/** A selection as it was when asked to be carried, what its passes had found, and the passes to make. */
const CarryPayload = z.object({
  sightingId: SightingId,
  layer: ScribbleLayer,
  mediaId: MediaId,
  encoding: Encoding,
  balance: Balance.optional(),
  runIds: z.array(RunId).min(1),
});

/** So many frames are found between one time that a pass keeps how far it has come and the next. */
const KEPT_EVERY = 16;

/**
 * Carries a selection over the passes' frames. Every frame is stored and told as soon as it is found. A pass that was
 * broken off goes on from where it last kept how far it had come, or else from its beginning, which gives the same;
 * frames that were stored already stand.
 */
export const carryJob: JobWork = (services, run) => interactive(() => carryAll(services, run));

const carryAll: JobWork = async ({ pool, store, log }, { payload, signal, report }) => {
  const request = CarryPayload.parse(payload);
  const { layer, mediaId, runIds, sightingId } = request;
  const stored = await findMedia(pool, mediaId);
  if (!stored) throw new Error('the footage is no longer there');
  const projectId = (await sightings.find(pool, sightingId))?.value.projectId;
  if (!projectId) throw new Error('the piece is no longer in this shot');
  await clearKeptCarriers(store);
  const thread = new CarryThread();
  const end = () => void thread.close();
  signal.addEventListener('abort', end);
  let done = 0;
  try {
    for (const run of (layer.carried ?? []).filter((r) => runIds.includes(r.id)))
      for await (const { count, certainty, isNew, frames } of carryPass(
        { pool, store, log, stored, thread, signal },
        request,
        run,
      )) {
        if (isNew) await notify(pool, projectId, 'carrying', { runId: run.id, count, certainty });
        report((done += frames));
      }
  } finally {
    signal.removeEventListener('abort', end);
    await thread.close();
    // a pass that was cancelled is made anew
    if (isCancelled(signal)) for (const id of runIds) await dropKeptCarrier(store, id);
    await scheduleStaleMeasurements(pool, projectId).catch(() => undefined);
  }
};

interface Surroundings extends JobServices {
  stored: StoredMedia;
  thread: CarryThread;
  signal: AbortSignal;
}
/** What came of a frame, and how many frames of the pass that accounts for. */
interface PassedFrame {
  /** How many of its frames are found. */
  count: number;
  certainty: number;
  isNew: boolean;
  frames: number;
}
/** One pass, frame by frame. */
async function* carryPass(
  { pool, store, log, stored, thread, signal }: Surroundings,
  { layer, encoding, balance, runIds, mediaId }: z.infer<typeof CarryPayload>,
  run: CarryRun,
): AsyncGenerator<PassedFrame> {
  const known = (await findCarryRun(pool, run.id))?.frames ?? [];
  const isKnown = new Set(known.map((f) => f.frame));
  const kept = {
    path: keptCarrierPath(store, run.id),
    madeOf: markOf([run, layer.strokes, mediaId, encoding, balance]),
  };
  const reached = await thread.goOn(kept);
  const forth = run.to >= run.from ? 1 : -1;
  let count = 0;
  if (reached !== undefined) {
    count = Math.abs(reached - run.from);
    yield { count, certainty: known[count - 1]?.certainty ?? 0, isNew: false, frames: count };
  }
  const span = { from: reached === undefined ? run.from : reached + forth, to: run.to };
  for await (const { at, codes } of carryFrames(store, stored, span, signal)) {
    signal.throwIfAborted();
    const picture = { codes, encoding, balance };
    if (at === run.from) {
      await thread.setOut({
        ...picture,
        ...(await beginningOf(pool, layer, runIds, at)),
        scale: codes.width / stored.media.width,
      });
      continue;
    }
    const { mask, certainty } = await thread.step(picture);
    count++;
    const isNew = !isKnown.has(at);
    if (isNew) await saveCarried(pool, run.id, { frame: at, mask, certainty });
    yield { count, certainty, isNew, frames: 1 };
    // a full disk costs what a kill would cost, not the pass
    if (count % KEPT_EVERY === 0 && at !== run.to)
      await thread.keep({ ...kept, at }).catch((error: unknown) => log.error({ error }, 'a pass could not be kept'));
  }
  await dropKeptCarrier(store, run.id);
}
/** The strokes on a frame, and what passes made before had carried there. */
async function beginningOf(pool: pg.Pool, layer: ScribbleLayer, runIds: readonly string[], at: number) {
  const carried = (layer.carried ?? []).filter((run) => !runIds.includes(run.id));
  const prior = carriedFrom({ ...layer, carried }, at);
  const masks = await listCarriedMasks(pool, prior);
  return {
    strokes: layer.strokes.filter((s) => s.frame === at),
    carried: masks.map(({ runId, mask }) => ({
      mask: maskOfBytes(mask),
      weight: prior.find((p) => p.runId === runId)!.weight,
    })),
  };
}
