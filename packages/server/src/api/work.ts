import { randomUUID } from 'node:crypto';
import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { ZipArchive } from 'archiver';
import type { Router } from 'express';
import {
  balanceOf,
  frameCount,
  framesOf,
  PLAIN_PATTERN,
  PRESETS,
  rendersOfShot,
  type Delivery,
  type JobId,
  type Media,
  type Preset,
} from '@mellow/contract';
import type { AppServices } from '../services.ts';
import { countDeliveries, findDelivery, insertDelivery, listDeliveries } from '../db/deliveries.ts';
import { findJob, listJobs, requestCancel } from '../db/jobs.ts';
import { listRuns } from '../db/trackRuns.ts';
import { inTransaction } from '../db/pool.ts';
import { assertProject, projectDocument } from '../db/projects.ts';
import { queueJob, requeueJob } from '../jobs/queue.ts';
import { deliveryFolder } from '../media/store.ts';
import { deliveryFileName, OUTPUTS, pieceFileNames } from '../render/presets.ts';
import { stillPath } from '../render/stills.ts';
import { sendPicture } from './sendPicture.ts';
import { assertId } from './ids.ts';
import { NotFound, Refused } from '../errors.ts';
import { register } from './route.ts';

/** Throws Refused where a format takes no picture as small as the shot's. */
function assertFits(preset: Preset, shot: string, { width, height }: Media): void {
  const { label, least } = PRESETS[preset] as { label: string; least?: { width: number; height: number } };
  if (!least || (width >= least.width && height >= least.height)) return;
  throw new Refused(
    'conflict',
    `${label} takes pictures from ${least.width} × ${least.height}; ${shot} is of ${width} × ${height}.`,
  );
}

export function workRoutes(router: Router, { pool, store }: AppServices): void {
  const jobOf = async (id: string | undefined) => {
    const found = await findJob(pool, assertId('job', id));
    if (!found) throw new NotFound('job', String(id));
    return found.job;
  };

  register(router, 'listJobs', async ({ params }) => {
    await assertProject(pool, assertId('project', params.projectId));
    return listJobs(pool, params.projectId!);
  });
  register(router, 'cancelJob', async ({ params }) => {
    const job = await jobOf(params.jobId);
    await requestCancel(pool, job.id);
    return jobOf(job.id);
  });
  register(router, 'retryJob', async ({ params }) => {
    const job = await jobOf(params.jobId);
    if (job.state !== 'failed' && job.state !== 'cancelled')
      throw new Refused('conflict', 'Only a failed or cancelled job can be started again.');
    await inTransaction(pool, (db) => requeueJob(db, job.id));
    return jobOf(job.id);
  });

  register(router, 'listDeliveries', async ({ params }) => {
    await assertProject(pool, assertId('project', params.projectId));
    return listDeliveries(pool, params.projectId!);
  });
  register(router, 'render', async ({ params, body }) => {
    const projectId = assertId('project', params.projectId);
    const document = await projectDocument(pool, projectId);
    const colourway = document.colourways.find((c) => c.value.id === body.colourwayId)?.value;
    if (!colourway) throw new NotFound('colourway', body.colourwayId);
    const nameOf = (id: string) => document.pieces.find((p) => p.value.id === id)!.value.name;
    const { look } = document.project.value;
    if (body.withLook && !look) throw new Refused('conflict', 'This project has no look to render through.');
    const ids: string[] = [];
    await inTransaction(pool, async (db) => {
      for (const shotId of body.shotIds) {
        const shot = document.shots.find((s) => s.value.id === shotId)?.value;
        if (!shot) throw new NotFound('shot', shotId);
        const media = document.media.find((m) => m.id === shot.mediaId)!;
        assertFits(body.preset, shot.name, media);
        const span = framesOf(shot, media);
        const [id, jobId] = [randomUUID(), randomUUID() as JobId];
        const tracks = document.tracks.map((t) => t.value).filter((t) => t.shotId === shot.id);
        const of = { projectId, shotId, colourwayName: colourway.name, preset: body.preset };
        const words = {
          project: document.project.value.name,
          shot: shot.name,
          colourway: colourway.name,
          n: `${(await countDeliveries(db, of)) + 1}`,
          date: new Date().toISOString().slice(0, 10),
        };
        const fileName = deliveryFileName(body.namePattern ?? PLAIN_PATTERN, words, body.preset);
        const isMattes = OUTPUTS[body.preset].what === 'mattes';
        const all = rendersOfShot(document, shot.id, colourway.id);
        // a piece of which nothing is selected has no matte to hand over
        const isWanted = (layers: readonly unknown[]) => !isMattes || layers.length > 0;
        const renders = all.renders.filter((r) => isWanted(r.layers));
        const sightings = all.sightings.filter((s) => isWanted(s.layers));
        if (isMattes && sightings.length === 0)
          throw new Refused('conflict', `${shot.name} has no mattes: nothing is isolated in it.`);
        await queueJob(db, {
          id: jobId,
          projectId,
          kind: 'render',
          subject: id,
          title: `Render ${shot.name}, ${colourway.name}, ${PRESETS[body.preset].label}`,
          total: frameCount(span),
          payload: {
            deliveryId: id,
            mediaId: media.id,
            encoding: shot.encoding,
            span,
            balance: balanceOf(shot),
            preset: body.preset,
            fileName,
            sightings: renders,
            ...(body.withLook && look && { look }),
            pieces: pieceFileNames(sightings.map((s) => nameOf(s.pieceId))),
            tracks,
            runs: await listRuns(
              db,
              tracks.flatMap((t) => t.runs.map((r) => r.id)),
            ),
          },
        });
        await insertDelivery(db, {
          id,
          ...of,
          shotName: shot.name,
          jobId,
          fileName,
        });
        ids.push(id);
      }
    });
    const all = await listDeliveries(pool, projectId);
    return ids.map((id) => all.find((d) => d.id === id) as Delivery);
  });

  register(router, 'deliveryStill', async ({ params, response }) => {
    const number = /^(\d{1,3})\.png$/.exec(params.still ?? '');
    const path = number && stillPath(deliveryFolder(store, assertId('delivery', params.deliveryId)), Number(number[1]));
    if (!path || !existsSync(path)) throw new NotFound('picture of a render', String(params.still));
    await sendPicture(response, path);
  });

  register(router, 'download', async ({ params, response }) => {
    const delivery = await findDelivery(pool, assertId('delivery', params.deliveryId));
    if (!delivery) throw new NotFound('delivery', params.deliveryId!);
    if (delivery.job.state !== 'done') throw new Refused('conflict', 'This render is not finished.');
    const folder = deliveryFolder(store, delivery.id);
    if (!existsSync(folder)) throw new NotFound('rendered file', delivery.fileName);
    const { framesIn } = OUTPUTS[delivery.preset];
    if (framesIn) {
      response.attachment(delivery.fileName);
      const zip = new ZipArchive({ store: true });
      zip.on('error', (error: Error) => response.destroy(error));
      zip.pipe(response);
      zip.directory(framesIn(folder), false);
      await zip.finalize();
      return;
    }
    await new Promise<void>((resolve, reject) =>
      response.download(join(folder, delivery.fileName), delivery.fileName, { dotfiles: 'allow' }, (error) =>
        error && !response.headersSent ? reject(error) : resolve(),
      ),
    );
  });
}
