import { existsSync } from 'node:fs';
import { rm } from 'node:fs/promises';
import type { Request } from 'express';
import {
  FrameSize,
  ImportOptions,
  ROUTES,
  Sha256,
  type FootageFault,
  type ImportAnswer,
  type MediaId,
  type RefusedFile,
  type UploadId,
} from '@mellow/contract';
import type { AppServices } from '../services.ts';
import type { Author } from '../db/author.ts';
import { addPlate, findMedia, listStoredOfProject } from '../db/media.ts';
import { inTransaction } from '../db/pool.ts';
import { assertProject } from '../db/projects.ts';
import { addShots, ensureProxies } from '../jobs/addShots.ts';
import { assertProjectHasRoom } from '../keeping/quota.ts';
import { importCube } from '../media/cubes.ts';
import { filesOfEntry, listFolder } from '../media/folder.ts';
import { footageCuts } from '../media/footageCuts.ts';
import { footageFault } from '../media/footageFault.ts';
import { hasProxies } from '../media/proxies.ts';
import { channelsApart } from '../media/channelsApart.ts';
import { importFiles, type Imported, type ImportHow } from '../media/importMedia.ts';
import { readAs } from '../media/readAs.ts';
import type { IncomingFile } from '../media/sequence.ts';
import { cubePath, framePath } from '../media/store.ts';
import { sendKept, sendPicture } from './sendFile.ts';
import { removeUploads, sentFile } from '../media/uploads.ts';
import { assertId } from './ids.ts';
import { NotFound, Refused } from '../errors.ts';
import { parseInput } from './parseInput.ts';
import type { Register } from './route.ts';
import { takeFiles } from './uploads.ts';

const MAX_FILE_BYTES = 200 * 2 ** 30;
const MAX_FILES = 20_000;

/** Where nothing at all came in, that is a refusal of the request. */
function assertSomeCameIn({ media, refused }: Imported): void {
  if (media.length > 0) return;
  throw new Refused(
    'refused-media',
    refused.map((r) => r.reason).join(' '),
    refused.map((r) => ({ path: r.name, message: r.reason })),
    { refused },
  );
}

export function mediaRoutes(register: Register, services: AppServices): void {
  const { pool, store, keeping } = services;
  const files = takeFiles(store, { fileSize: MAX_FILE_BYTES, files: MAX_FILES });

  /** Files of a multipart request, under the names the user knows; always removed from staging afterwards. */
  const withUpload = async <T>(
    request: Request,
    use: (incoming: IncomingFile[], options: ImportOptions) => Promise<T>,
  ): Promise<T> => {
    const files = (request.files ?? []) as Express.Multer.File[];
    try {
      if (files.length === 0)
        throw new Refused('invalid-input', 'No file was sent in the field “files”.', [
          { path: 'files', message: 'required' },
        ]);
      const { fps, timing } = request.body as { fps?: string; timing?: string };
      const options = parseInput(ImportOptions, { fps: fps ? Number(fps) : undefined, timing: timing || undefined });
      // browsers send UTF-8 names, which busboy reads as Latin-1
      const named = files.map((f) => ({ path: f.path, name: Buffer.from(f.originalname, 'latin1').toString('utf8') }));
      return await use(named, options);
    } finally {
      await Promise.all(files.map((f) => rm(f.path, { force: true })));
    }
  };
  const importInto = async (
    projectId: string,
    incoming: IncomingFile[],
    options: ImportHow,
    by: Author,
  ): Promise<ImportAnswer> => {
    await assertProjectHasRoom(pool, keeping, projectId, incoming);
    const imported = await importFiles(pool, store, incoming, options);
    assertSomeCameIn(imported);
    // footage that was missing comes back to the shots that are made of it
    const own = new Set((await listStoredOfProject(pool, projectId)).map((stored) => stored.media.id));
    const back = imported.restored.filter(({ media }) => own.has(media.id));
    for (const stored of back) await inTransaction(pool, (db) => ensureProxies(db, { store }, projectId, stored));
    const fresh = imported.media.filter((stored) => !back.includes(stored));
    const { mediaIds, shotIds } = await addShots(services, projectId, fresh, by);
    return { mediaIds: [...mediaIds, ...back.map((s) => s.media.id)], shotIds, refused: imported.refused };
  };

  const importPlates = async (
    projectId: string,
    incoming: IncomingFile[],
    options: ImportHow,
  ): Promise<Omit<ImportAnswer, 'shotIds'>> => {
    await assertProjectHasRoom(pool, keeping, projectId, incoming);
    const { files: plates, done } = await channelsApart(incoming, store.staging);
    const imported = await importFiles(pool, store, plates, options).finally(done);
    assertSomeCameIn(imported);
    await inTransaction(pool, async (db) => {
      for (const stored of imported.media) {
        await addPlate(db, projectId, stored.media.id);
        await ensureProxies(db, { store }, projectId, stored);
      }
    });
    return { mediaIds: imported.media.map((m) => m.media.id), refused: imported.refused };
  };

  register('readMedia', ({ params, body }) => {
    const projectId = assertId('project', params.projectId);
    const mediaId = assertId('media', params.mediaId) as MediaId;
    return inTransaction(pool, async (db) => {
      await assertProject(db, projectId);
      const stored = (await listStoredOfProject(db, projectId)).find(({ media }) => media.id === mediaId);
      if (!stored) throw new NotFound('media', mediaId);
      const read = await readAs(db, stored, body);
      await ensureProxies(db, { store }, projectId, read);
      return read.media;
    });
  });
  register('footageFaults', async ({ params, request }) => {
    const projectId = assertId('project', params.projectId);
    await assertProject(pool, projectId);
    const gone = new AbortController();
    request.on('close', () => gone.abort());
    const faults: FootageFault[] = [];
    // the same files may be read in several ways: what they lack, each lacks
    for (const stored of await listStoredOfProject(pool, projectId)) {
      const fault = await footageFault(store, stored, gone.signal);
      if (fault) faults.push(fault);
    }
    return faults;
  });
  register('footageCuts', async ({ params, request }) => {
    const stored = await findMedia(pool, assertId('media', params.mediaId) as MediaId);
    if (!stored) throw new NotFound('media', params.mediaId!);
    if (!(await hasProxies(store, stored)))
      throw new Refused('conflict', 'Its small pictures are still being made; cuts are found in them.');
    const gone = new AbortController();
    request.on('close', () => gone.abort());
    return footageCuts(store, stored, gone.signal);
  });
  register(
    'uploadMedia',
    ({ params, request, caller }) =>
      withUpload(request, async (incoming, options) => {
        const projectId = assertId('project', params.projectId);
        await assertProject(pool, projectId);
        return importInto(projectId, incoming, { take: 'move', ...options }, caller.author);
      }),
    files,
  );

  register(
    'uploadPlate',
    ({ params, request }) =>
      withUpload(request, async (incoming, options) => {
        const projectId = assertId('project', params.projectId);
        await assertProject(pool, projectId);
        return importPlates(projectId, incoming, { take: 'move', ...options });
      }),
    files,
  );

  register(
    'uploadCube',
    ({ params, request }) =>
      withUpload(request, async (incoming) => {
        await assertProject(pool, assertId('project', params.projectId));
        if (incoming.length > 1) throw new Refused('invalid-input', 'One look-up table at a time.');
        return importCube(store, incoming[0]!);
      }),
    files,
  );
  register('cube', async ({ params, response }) => {
    const sha256 = Sha256.safeParse(params.sha256);
    const path = sha256.success && cubePath(store, sha256.data);
    if (!path || !existsSync(path)) throw new NotFound('look-up table', String(params.sha256));
    await sendKept(response, path, 'text/plain; charset=utf-8');
  });

  register('importFromFolder', async ({ params, body, caller }) => {
    const projectId = assertId('project', params.projectId);
    await assertProject(pool, projectId);
    const incoming = new Map<string, IncomingFile>();
    for (const path of body.paths) {
      // one file may lie there under two names
      for (const file of await filesOfEntry(store, path)) incoming.set(`${file.path}\0${file.name}`, file);
    }
    const { fps, timing } = body;
    return importInto(projectId, [...incoming.values()], { take: 'leave', fps, timing }, caller.author);
  });

  register('importUploads', async ({ params, body, caller, response }) => {
    const projectId = assertId('project', params.projectId);
    await assertProject(pool, projectId);
    const gone = new AbortController();
    response.on('close', () => gone.abort());
    const sent: (IncomingFile & { id: UploadId })[] = [];
    const { fps, timing } = body;
    const how: ImportHow = { take: 'spare', fps, timing, signal: gone.signal };
    /** What may yet come in another way is kept, so that it need not be sent again. */
    const clear = (refused: readonly RefusedFile[]) => {
      const offered = new Set(refused.filter((r) => r.offer).map((r) => r.name));
      const done = sent.filter(({ name }) => !offered.has(name)).map(({ id }) => id);
      return removeUploads(store, caller.author.id, done);
    };
    try {
      for (const file of body.files)
        sent.push({ ...(await sentFile(store, caller.author.id, file, gone.signal)), id: file.id });
      const answer =
        body.as === 'plates'
          ? { ...(await importPlates(projectId, sent, how)), shotIds: [] }
          : await importInto(projectId, sent, how, caller.author);
      await clear(answer.refused);
      return answer;
    } catch (error) {
      if (error instanceof Refused && error.refused) await clear(error.refused);
      if (gone.signal.aborted) throw new Refused('conflict', 'The import was stopped.');
      throw error;
    }
  });

  register('listFolder', ({ request }) => listFolder(store, parseInput(ROUTES.listFolder.query, request.query).path));

  register('frame', async ({ params, response }) => {
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
    await sendPicture(response, path);
  });
}
