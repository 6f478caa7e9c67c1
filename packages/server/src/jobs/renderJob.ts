import { readdir, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { z } from 'zod';
import {
  Balance,
  Encoding,
  MediaId,
  Preset,
  Look as StoredLook,
  RunResult,
  ShotRenderSighting,
  Span,
  Track,
  framesOf,
} from '@mellow/contract';
import { platesOf, type Look } from '@mellow/core';
import { setDelivered } from '../db/deliveries.ts';
import { findMedia } from '../db/media.ts';
import type { Queryable } from '../db/pool.ts';
import { keptTable } from '../media/cubes.ts';
import { faultText, footageFault } from '../media/footageFault.ts';
import { deliveryFolder, type MediaStore } from '../media/store.ts';
import { sharedRenderPool } from '../render/renderPool.ts';
import { renderShot } from '../render/renderShot.ts';
import { stillsIn } from '../render/stills.ts';
import { motionsFrom } from '../track/motions.ts';
import type { JobWork } from './queue.ts';

/** A render holds a copy of all it needs: edits made after it was asked for do not change it half-way. */
const RenderPayload = z.object({
  deliveryId: z.uuid(),
  mediaId: MediaId,
  encoding: Encoding,
  /** Left out: all of the footage. */
  span: Span.optional(),
  balance: Balance.optional(),
  preset: Preset,
  burnIn: z.string().optional(),
  fileName: z.string(),
  sightings: z.array(ShotRenderSighting),
  /** The shot's look as it was; left out: the render is without one. */
  look: StoredLook.optional(),
  /** File names of their pieces, in the same order. */
  pieces: z.array(z.string()).default([]),
  /** The shot's tracks and what they had found when the render was asked for. */
  tracks: z.array(Track).default([]),
  runs: z.array(RunResult).default([]),
});

/** Bytes of what is handed over: the small pictures are the application's own. */
async function deliveredBytes(folder: string): Promise<number> {
  let total = 0;
  for (const entry of await readdir(folder, { recursive: true, withFileTypes: true }))
    if (entry.isFile() && entry.parentPath !== stillsIn(folder))
      total += (await stat(join(entry.parentPath, entry.name))).size;
  return total;
}

async function lookFrom(store: MediaStore, { cdl, curves, cube }: StoredLook): Promise<Look> {
  const table = cube ? await keptTable(store, cube.sha256) : undefined;
  return { cdl: cdl ?? undefined, curves: curves ?? undefined, table };
}

/** Throws where footage is no longer what was brought in. */
async function assertUntouched(db: Queryable, store: MediaStore, id: MediaId, signal: AbortSignal): Promise<void> {
  const stored = await findMedia(db, id);
  const fault = stored && (await footageFault(store, stored, signal));
  if (fault) throw new Error(faultText(fault));
}

export const renderJob: JobWork = async ({ pool, store }, { payload, signal, report }) => {
  const { deliveryId, mediaId, tracks, runs, look, span, ...job } = RenderPayload.parse(payload);
  const media = await findMedia(pool, mediaId);
  if (!media) throw new Error('the footage is no longer there');
  const plates = job.sightings.flatMap((s) => platesOf(s.layers).map((plate) => plate.mediaId as MediaId));
  for (const id of new Set([mediaId, ...plates])) await assertUntouched(pool, store, id, signal);
  const shown = framesOf({ span: span ?? null }, media.media);
  const folder = deliveryFolder(store, deliveryId);
  const readBack = await renderShot(
    pool,
    store,
    sharedRenderPool(),
    {
      media,
      span: shown,
      folder,
      motions: motionsFrom(tracks, runs),
      look: look && (await lookFrom(store, look)),
      ...job,
    },
    report,
    signal,
  );
  await setDelivered(pool, deliveryId, await deliveredBytes(folder), readBack ?? null);
};
