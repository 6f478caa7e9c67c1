import { z } from 'zod';
import { Balance, Encoding, MediaId, RunId, ScribbleLayer, SightingId } from '@mellow/contract';
import { carriedFrom, maskOfBytes } from '@mellow/core';
import { carryFrames } from '../carry/carryFrames.ts';
import { CarryThread } from '../carry/carryThread.ts';
import { findCarryRun, listCarriedMasks, saveCarried } from '../db/carryRuns.ts';
import { findMedia } from '../db/media.ts';
import { notify } from '../db/notify.ts';
import { sightings } from '../db/entities.ts';
import { interactive } from './interactive.ts';
import { scheduleStaleMeasurements } from './measureWork.ts';
import type { JobWork } from './queue.ts';

/** A selection as it was when asked to be carried, what its passes had found, and the passes to make. */
const CarryPayload = z.object({
  sightingId: SightingId,
  layer: ScribbleLayer,
  mediaId: MediaId,
  encoding: Encoding,
  balance: Balance.optional(),
  runIds: z.array(RunId).min(1),
});

/**
 * Carries a selection over the passes' frames. Every frame is stored and told as soon as it is found. A pass that was
 * broken off goes over its frames again, which gives the same; those stored already stand meanwhile.
 */
export const carryJob: JobWork = (services, run) => interactive(() => carryAll(services, run));

const carryAll: JobWork = async ({ pool, store }, { payload, signal, report }) => {
  const { layer, mediaId, encoding, balance, runIds, sightingId } = CarryPayload.parse(payload);
  const stored = await findMedia(pool, mediaId);
  if (!stored) throw new Error('the footage is no longer there');
  const projectId = (await sightings.find(pool, sightingId))?.value.projectId;
  if (!projectId) throw new Error('the piece is no longer in this shot');
  const before = (layer.carried ?? []).filter((run) => !runIds.includes(run.id));
  const thread = new CarryThread();
  const end = () => void thread.close();
  signal.addEventListener('abort', end);
  let done = 0;
  try {
    for (const run of (layer.carried ?? []).filter((r) => runIds.includes(r.id))) {
      const known = new Set((await findCarryRun(pool, run.id))?.frames.map((f) => f.frame));
      const prior = carriedFrom(before, run.from);
      const masks = await listCarriedMasks(pool, prior);
      let count = 0;
      for await (const { at, codes } of carryFrames(store, stored, run, signal)) {
        signal.throwIfAborted();
        const picture = { codes, encoding, balance };
        if (at === run.from) {
          await thread.setOut({
            ...picture,
            strokes: layer.strokes.filter((s) => s.frame === at),
            scale: codes.width / stored.media.width,
            carried: masks.map(({ runId, mask }) => ({
              mask: maskOfBytes(mask),
              weight: prior.find((p) => p.runId === runId)!.weight,
            })),
          });
          continue;
        }
        const { mask, certainty } = await thread.step(picture);
        count++;
        if (!known.has(at)) {
          await saveCarried(pool, run.id, { frame: at, mask, certainty });
          await notify(pool, projectId, 'carrying', { runId: run.id, count, certainty });
        }
        report(++done);
      }
    }
  } finally {
    signal.removeEventListener('abort', end);
    await thread.close();
    await scheduleStaleMeasurements(pool, projectId).catch(() => undefined);
  }
};
