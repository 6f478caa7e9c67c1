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
  type ReadBack,
} from '@mellow/contract';
import { platesOf, type Look } from '@mellow/core';
import { setDelivered } from '../db/deliveries.ts';
import { findMedia } from '../db/media.ts';
import type { Queryable } from '../db/pool.ts';
import { keptTable } from '../media/cubes.ts';
import { faultText, footageFault } from '../media/footageFault.ts';
import { deliveryFolder, type MediaStore } from '../media/store.ts';
import { place } from '../render/placed.ts';
import { OUTPUTS } from '../render/presets.ts';
import { sharedRenderPool } from '../render/renderPool.ts';
import { renderShot } from '../render/renderShot.ts';
import { stillsIn } from '../render/stills.ts';
import { motionsFrom } from '../track/motions.ts';
import type { JobRun, JobServices, JobsWork } from './queue.ts';

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
  /** The name of the project, under which it goes into the render folder; left out: it does not. */
  toFolder: z.string().optional(),
});
type RenderPayload = z.infer<typeof RenderPayload>;

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

/** Waits for a file that is rendered, puts it where it is wanted, and stores what came of it. */
async function delivered(
  { pool, store }: JobServices,
  { deliveryId, fileName, preset, toFolder }: RenderPayload,
  end: Promise<ReadBack>,
): Promise<void> {
  const readBack = await end;
  const folder = deliveryFolder(store, deliveryId);
  const framesIn = OUTPUTS[preset].framesIn?.(folder);
  const of = { path: framesIn ?? join(folder, fileName), isFolder: framesIn !== undefined, fileName };
  const placed = toFolder === undefined ? null : await place(store, { ...of, projectName: toFolder });
  await setDelivered(pool, deliveryId, { bytes: await deliveredBytes(folder), readBack, placed });
}

/**
 * Renders of one shot in several colourways, asked for together: they share all but their recipes, their names and
 * what is burnt in, so the shot is decoded and isolated once.
 */
export const renderJobs: JobsWork = (services, runs) => {
  const begun = begin(services, runs);
  // when the beginning fails, all have failed
  begun.catch(() => undefined);
  return runs.map(async (_, i) => {
    const { asked, end } = (await begun)[i]!;
    await delivered(services, asked, end);
  });
};
async function begin({ pool, store }: JobServices, runs: readonly JobRun[]) {
  const asked = runs.map(({ payload }) => RenderPayload.parse(payload));
  const { mediaId, tracks, runs: found, look, span, balance, encoding, preset, pieces } = asked[0]!;
  const media = await findMedia(pool, mediaId);
  if (!media) throw new Error('the footage is no longer there');
  const layers = asked.flatMap(({ sightings }) => sightings.flatMap((s) => s.layers));
  const plates = platesOf(layers).map((plate) => plate.mediaId as MediaId);
  const anyRun = AbortSignal.any(runs.map((run) => run.signal));
  for (const id of new Set([mediaId, ...plates])) await assertUntouched(pool, store, id, anyRun);
  const shot = {
    media,
    span: framesOf({ span: span ?? null }, media.media),
    encoding,
    balance,
    motions: motionsFrom(tracks, found),
    look: look && (await lookFrom(store, look)),
    pieces,
    preset,
  };
  const wanted = asked.map(({ deliveryId, sightings, burnIn, fileName }, i) => {
    const { signal, report: onFrame } = runs[i]!;
    return { sightings, burnIn, fileName, folder: deliveryFolder(store, deliveryId), signal, onFrame };
  });
  const ends = renderShot(pool, store, sharedRenderPool(), shot, wanted);
  return asked.map((payload, i) => ({ asked: payload, end: ends[i]! }));
}
