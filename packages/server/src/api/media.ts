import { randomUUID } from 'node:crypto';
import { existsSync } from 'node:fs';
import { rm } from 'node:fs/promises';
import { basename, join } from 'node:path';
import type { Request, Router } from 'express';
import multer from 'multer';
import {
  FrameSize,
  ROUTES,
  type ChangeId,
  type ImportAnswer,
  type JobId,
  type MediaId,
  type ProjectId,
  type Shot,
  type ShotId,
} from '@mellow/contract';
import type { AppServices } from '../app.ts';
import { applyChangeWithin } from '../db/changes.ts';
import { shots } from '../db/entities.ts';
import { latestJobOf } from '../db/jobs.ts';
import { addPlate, findMedia, type StoredMedia } from '../db/media.ts';
import { inTransaction } from '../db/pool.ts';
import { assertProject } from '../db/projects.ts';
import { scheduleStaleMeasurements } from '../jobs/measureWork.ts';
import { queueJob, requeueJob } from '../jobs/queue.ts';
import { filesOfEntry, listFolder } from '../media/folder.ts';
import { importFiles, type IncomingFile } from '../media/importMedia.ts';
import { hasProxies } from '../media/proxies.ts';
import { framePath } from '../media/store.ts';
import { assertId } from './ids.ts';
import { NotFound, Refused } from './problem.ts';
import { parseInput, register } from './route.ts';

const MAX_FILE_BYTES = 200 * 2 ** 30;
const MAX_FILES = 20_000;

/** Makes a shot of each media, at the end of the reel, as one undoable change; queues the proxies that are missing. */
export async function addShots(
  { pool, store }: Pick<AppServices, 'pool' | 'store'>,
  projectId: string,
  imported: readonly StoredMedia[],
  who: string,
): Promise<ImportAnswer> {
  const shotIds = imported.map(() => randomUUID() as ShotId);
  await inTransaction(pool, async (db) => {
    const taken = (await shots.listByProject(db, projectId)).map((s) => s.value.position);
    const next = Math.max(-1, ...taken) + 1;
    await applyChangeWithin(
      db,
      projectId,
      {
        id: randomUUID() as ChangeId,
        label: imported.length === 1 ? `Import ${imported[0]!.media.name}` : `Import ${imported.length} shots`,
        edits: imported.map(({ media }, i) => {
          const value: Shot = {
            id: shotIds[i]!,
            projectId: projectId as ProjectId,
            mediaId: media.id,
            name: shotName(media.name),
            position: next + i,
            encoding: media.proposedEncoding,
            balance: null,
          };
          return { kind: 'shot' as const, id: value.id, revision: null, value };
        }),
      },
      who,
    );
    for (const stored of imported) await ensureProxies(db, { store }, projectId, stored);
  });
  await scheduleStaleMeasurements(pool, projectId);
  return { mediaIds: imported.map((m) => m.media.id), shotIds };
}

async function ensureProxies(
  db: Parameters<typeof queueJob>[0],
  { store }: Pick<AppServices, 'store'>,
  projectId: string,
  stored: StoredMedia,
): Promise<void> {
  const latest = await latestJobOf(db, 'proxy', stored.media.id);
  if (latest && ['queued', 'running'].includes(latest.state)) return;
  if (latest?.state === 'done' && (await hasProxies(store, stored))) return;
  if (latest) return requeueJob(db, latest.id);
  await queueJob(db, {
    id: randomUUID() as JobId,
    projectId,
    kind: 'proxy',
    subject: stored.media.id,
    title: `Proxies of ${stored.media.name}`,
    total: stored.media.frames,
    payload: { mediaId: stored.media.id },
  });
}

/** A shot's first name: the file's, without extension and frame numbers. */
const shotName = (file: string): string =>
  file
    .replace(/[._-]?\[\d+-\d+\]/, '')
    .replace(/\.[^.]+$/, '')
    .slice(0, 120) || 'shot';

export function mediaRoutes(router: Router, services: AppServices): void {
  const { pool, store } = services;
  const upload = multer({
    storage: multer.diskStorage({
      destination: store.staging,
      filename: (_q, _f, done) => done(null, `${randomUUID()}.upload`),
    }),
    limits: { fileSize: MAX_FILE_BYTES, files: MAX_FILES },
  });

  /** Files of a multipart request, under the names the user knows; always removed from staging afterwards. */
  const withUpload = async <T>(
    request: Request,
    use: (incoming: IncomingFile[], fps: number | undefined) => Promise<T>,
  ): Promise<T> => {
    const files = (request.files ?? []) as Express.Multer.File[];
    try {
      if (files.length === 0)
        throw new Refused('invalid-input', 'No file was sent in the field “files”.', [
          { path: 'files', message: 'required' },
        ]);
      const fps = (request.body as { fps?: string }).fps;
      const { fps: rate } = parseInput(ROUTES.importFromFolder.body.pick({ fps: true }), {
        fps: fps ? Number(fps) : undefined,
      });
      // browsers send UTF-8 names, which busboy reads as Latin-1
      return await use(
        files.map((f) => ({ path: f.path, name: Buffer.from(f.originalname, 'latin1').toString('utf8') })),
        rate,
      );
    } finally {
      await Promise.all(files.map((f) => rm(f.path, { force: true })));
    }
  };
  const importInto = async (
    projectId: string,
    incoming: IncomingFile[],
    options: { fps?: number; keep: boolean },
  ): Promise<ImportAnswer> => addShots(services, projectId, await importFiles(pool, store, incoming, options), 'local');

  register(
    router,
    'uploadMedia',
    ({ params, request }) =>
      withUpload(request, async (incoming, fps) => {
        const projectId = assertId('project', params.projectId);
        await assertProject(pool, projectId);
        return importInto(projectId, incoming, { keep: false, ...(fps && { fps }) });
      }),
    upload.array('files'),
  );

  register(
    router,
    'uploadPlate',
    ({ params, request }) =>
      withUpload(request, async (incoming, fps) => {
        const projectId = assertId('project', params.projectId);
        await assertProject(pool, projectId);
        const imported = await importFiles(pool, store, incoming, { keep: false, ...(fps && { fps }) });
        await inTransaction(pool, async (db) => {
          for (const stored of imported) {
            await addPlate(db, projectId, stored.media.id);
            await ensureProxies(db, { store }, projectId, stored);
          }
        });
        return { mediaIds: imported.map((m) => m.media.id) };
      }),
    upload.array('files'),
  );

  register(router, 'importFromFolder', async ({ params, body }) => {
    const projectId = assertId('project', params.projectId);
    await assertProject(pool, projectId);
    const incoming = new Map<string, IncomingFile>();
    for (const path of body.paths) {
      const { folder, files } = await filesOfEntry(store, path);
      for (const file of files) incoming.set(join(folder, file), { path: join(folder, file), name: basename(file) });
    }
    return importInto(projectId, [...incoming.values()], { keep: true, ...(body.fps && { fps: body.fps }) });
  });

  register(router, 'listFolder', ({ request }) =>
    listFolder(store, parseInput(ROUTES.listFolder.query, request.query).path),
  );

  register(router, 'frame', async ({ params, response }) => {
    const mediaId = assertId('media', params.mediaId) as MediaId;
    const size = FrameSize.safeParse(params.size);
    const number = /^(\d{1,9})(\.png)?$/.exec(params.frame ?? '');
    if (!size.success || !number) throw new NotFound('frame', `${params.size}/${params.frame}`);
    const path = framePath(store, mediaId, size.data, Number(number[1]));
    if (!existsSync(path)) {
      const stored = await findMedia(pool, mediaId);
      if (!stored || Number(number[1]) >= stored.media.frames)
        throw new NotFound('frame', `${number[1]} of media ${mediaId}`);
      throw new Refused('conflict', 'The proxies of this shot are not made yet.');
    }
    await new Promise<void>((resolve, reject) =>
      response.sendFile(
        path,
        { immutable: true, maxAge: '365d', dotfiles: 'allow', headers: { 'Content-Type': 'image/png' } },
        (error) => (error && !response.headersSent ? reject(error) : resolve()),
      ),
    );
  });
}
