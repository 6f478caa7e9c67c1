import { randomUUID } from 'node:crypto';
import {
  framesOf,
  withFound,
  type CarryRun,
  type ChangeId,
  type JobId,
  type Layer,
  type ScribbleLayer,
} from '@mellow/contract';
import { passesNeeded, taughtFrames } from '@mellow/core';
import { insertCarryRun, findCarried, listCertainties } from '../db/carryRuns.ts';
import { applyChangeWithin } from '../db/changes.ts';
import { shots, sightings } from '../db/entities.ts';
import { findJob } from '../db/jobs.ts';
import { findMedia } from '../db/media.ts';
import { inTransaction } from '../db/pool.ts';
import { NotFound, Refused } from '../errors.ts';
import { queueJob } from '../jobs/queue.ts';
import type { AppServices } from '../services.ts';
import { assertId } from './ids.ts';
import type { Register } from './route.ts';
import { KEPT } from './sendFile.ts';

/** The carried selection of a stack by its id, those in groups included. */
function scribbleIn(layers: readonly Layer[], id: string): ScribbleLayer | undefined {
  for (const layer of layers) {
    if (layer.kind === 'group') {
      const inner = scribbleIn(layer.layers, id);
      if (inner) return inner;
    } else if (layer.id === id && layer.kind === 'scribble') return layer;
  }
  return undefined;
}
function withLayer(layers: readonly Layer[], next: ScribbleLayer): Layer[] {
  return layers.map((layer) => {
    if (layer.kind === 'group') return { ...layer, layers: withLayer(layer.layers, next) as typeof layer.layers };
    return layer.id === next.id ? next : layer;
  });
}

export function carryRoutes(register: Register, { pool }: AppServices): void {
  register('carry', async ({ params, body, caller }) => {
    const projectId = assertId('project', params.projectId);
    return inTransaction(pool, async (db) => {
      const current = await sightings.find(db, body.sightingId);
      if (!current || current.value.projectId !== projectId) throw new NotFound('sighting', body.sightingId);
      const layer = scribbleIn(current.value.layers, body.layerId);
      if (!layer) throw new NotFound('scribble', body.layerId);
      if (taughtFrames(layer.strokes).length === 0)
        throw new Refused(
          'invalid-input',
          `${layer.name} has no stroke that belongs to a frame: there is nothing to carry.`,
          [{ path: 'layerId', message: 'has no stroke that belongs to a frame' }],
        );
      const shot = (await shots.find(db, current.value.shotId))!.value;
      const { media } = (await findMedia(db, shot.mediaId))!;
      const [known] = withFound([layer], await listCertainties(db, projectId)) as [ScribbleLayer];
      const runs = passesNeeded(complete(known), framesOf(shot, media), body.anew).map((span): CarryRun => ({
        id: randomUUID(),
        ...span,
      }));
      if (runs.length === 0) return { change: null, job: null };
      for (const run of runs) await insertCarryRun(db, { id: run.id, projectId, isBackward: run.to < run.from });
      const next = { ...layer, carried: [...(layer.carried ?? []), ...runs] };
      const frames = [...new Set(runs.map((r) => r.from))].join(', ');
      const change = await applyChangeWithin(
        db,
        projectId,
        {
          id: randomUUID() as ChangeId,
          label: `Carry ${layer.name} from frame ${frames}`,
          edits: [
            {
              kind: 'sighting',
              id: current.value.id,
              revision: current.revision,
              value: { ...current.value, layers: withLayer(current.value.layers, next) },
            },
          ],
        },
        caller.author,
      );
      const jobId = randomUUID() as JobId;
      await queueJob(db, {
        id: jobId,
        projectId,
        kind: 'carry',
        subject: layer.id,
        title: `Carry ${layer.name} in ${shot.name}`,
        total: runs.reduce((n, { from, to }) => n + Math.abs(to - from), 0),
        payload: {
          sightingId: current.value.id,
          layer: { ...known, carried: [...(known.carried ?? []), ...runs] },
          mediaId: shot.mediaId,
          encoding: shot.encoding,
          ...(shot.balance && { balance: shot.balance }),
          runIds: runs.map((r) => r.id),
        },
      });
      return { change, job: (await findJob(db, jobId))!.job };
    });
  });
  register('carriedFrame', async ({ params, response }) => {
    const projectId = assertId('project', params.projectId);
    const runId = assertId('run', params.runId);
    const frame = /^\d{1,9}$/.test(params.frame ?? '') ? Number(params.frame) : undefined;
    const mask = frame === undefined ? undefined : await findCarried(pool, projectId, runId, frame);
    if (!mask) throw new NotFound('frame', `${params.frame} of run ${runId}`);
    response.set({
      'Content-Type': 'application/octet-stream',
      'Cache-Control': KEPT,
    });
    response.end(mask);
  });
}

/** With only the passes that were gone through to their end: one that was broken off is made anew. */
const complete = (layer: ScribbleLayer): ScribbleLayer => ({
  ...layer,
  carried: (layer.carried ?? []).filter(({ from, to, found = [] }) => found.length >= Math.abs(to - from)),
});
