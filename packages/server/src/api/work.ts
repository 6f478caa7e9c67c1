import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { ZipArchive } from 'archiver';
import type { Delivery } from '@mellow/contract';
import type { AppServices } from '../services.ts';
import { findDelivery, listDeliveries } from '../db/deliveries.ts';
import { findJob, listJobs, requestCancel } from '../db/jobs.ts';
import { dropSettings, keepSettings, listKeptSettings } from '../db/keptSettings.ts';
import { inTransaction } from '../db/pool.ts';
import { assertProject, projectDocument } from '../db/projects.ts';
import { requeueJob } from '../jobs/queue.ts';
import { queueRenders } from '../jobs/queueRenders.ts';
import { deliveryFolder } from '../media/store.ts';
import { OUTPUTS } from '../render/presets.ts';
import { stillPath } from '../render/stills.ts';
import { sendFile, sendPicture } from './sendFile.ts';
import { assertId } from './ids.ts';
import { NotFound, Refused } from '../errors.ts';
import type { Register } from './route.ts';

export function workRoutes(register: Register, { pool, store }: AppServices): void {
  const jobOf = async (id: string | undefined) => {
    const found = await findJob(pool, assertId('job', id));
    if (!found) throw new NotFound('job', String(id));
    return found.job;
  };

  register('listJobs', async ({ params }) => {
    await assertProject(pool, assertId('project', params.projectId));
    return listJobs(pool, params.projectId!);
  });
  register('cancelJob', async ({ params }) => {
    const job = await jobOf(params.jobId);
    await requestCancel(pool, job.id);
    return jobOf(job.id);
  });
  register('retryJob', async ({ params }) => {
    const job = await jobOf(params.jobId);
    if (job.state !== 'failed' && job.state !== 'cancelled')
      throw new Refused('conflict', 'Only a failed or cancelled job can be started again.');
    await inTransaction(pool, (db) => requeueJob(db, job.id));
    return jobOf(job.id);
  });

  register('listDeliveries', async ({ params }) => {
    await assertProject(pool, assertId('project', params.projectId));
    return listDeliveries(pool, params.projectId!);
  });
  register('render', async ({ params, body }) => {
    const document = await projectDocument(pool, assertId('project', params.projectId));
    const ids = await inTransaction(pool, (db) => queueRenders(db, document, body));
    const all = await listDeliveries(pool, params.projectId!);
    return ids.map((id) => all.find((d) => d.id === id) as Delivery);
  });

  register('listKeptSettings', () => listKeptSettings(pool));
  register('keepSettings', async ({ body }) => {
    await keepSettings(pool, body);
    return listKeptSettings(pool);
  });
  register('dropSettings', async ({ body }) => {
    await dropSettings(pool, body.name);
    return listKeptSettings(pool);
  });

  register('deliveryStill', async ({ params, response }) => {
    const number = /^(\d{1,3})\.png$/.exec(params.still ?? '');
    const path = number && stillPath(deliveryFolder(store, assertId('delivery', params.deliveryId)), Number(number[1]));
    if (!path || !existsSync(path)) throw new NotFound('picture of a render', String(params.still));
    await sendPicture(response, path);
  });

  register('download', async ({ params, response }) => {
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
      response.on('close', () => response.writableFinished || zip.abort());
      zip.pipe(response);
      zip.directory(framesIn(folder), false);
      await zip.finalize();
      return;
    }
    await sendFile(response, (done) =>
      response.download(join(folder, delivery.fileName), delivery.fileName, { dotfiles: 'allow' }, done),
    );
  });
}
