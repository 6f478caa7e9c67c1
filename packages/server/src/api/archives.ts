import { rm } from 'node:fs/promises';
import { ZipArchive } from 'archiver';
import { plainName, ROUTES } from '@mellow/contract';
import { collectArchive, putInto } from '../archive/writeArchive.ts';
import { openArchive } from '../archive/openArchive.ts';
import { Refused } from '../errors.ts';
import { removeUploads, sentFile } from '../media/uploads.ts';
import type { AppServices } from '../services.ts';
import { assertId } from './ids.ts';
import { parseInput } from './parseInput.ts';
import type { Register } from './route.ts';
import { takeFiles } from './uploads.ts';

const MOST_BYTES = 2 ** 40;

export function archiveRoutes(register: Register, { pool, store }: AppServices, program: string): void {
  register('saveArchive', async ({ params, request, response }) => {
    const { footage } = parseInput(ROUTES.saveArchive.query, request.query);
    const of = { withFootage: footage === 'included', program, at: new Date() };
    const archive = await collectArchive(pool, store, assertId('project', params.projectId), of);
    response.attachment(`${plainName(archive.manifest.projectName)}.zip`);
    const zip = new ZipArchive({ zlib: { level: 6 } });
    zip.on('error', (error: Error) => response.destroy(error));
    response.on('close', () => response.writableFinished || zip.abort());
    zip.pipe(response);
    putInto(zip, store, archive);
    await zip.finalize();
  });

  register('openSentArchive', async ({ body, caller }) => {
    const { path } = await sentFile(store, caller.author.id, body);
    const drop = () => removeUploads(store, caller.author.id, [body.id]);
    try {
      const opened = await openArchive(pool, store, path, caller);
      await drop();
      return opened;
    } catch (error) {
      // it will be no other when it is asked for again
      if (error instanceof Refused) await drop();
      throw error;
    }
  });
  register(
    'openArchive',
    async ({ request, caller }) => {
      const [file] = (request.files ?? []) as Express.Multer.File[];
      if (!file)
        throw new Refused('invalid-input', 'No file was sent in the field “files”.', [
          { path: 'files', message: 'required' },
        ]);
      try {
        return await openArchive(pool, store, file.path, caller);
      } finally {
        await rm(file.path, { force: true });
      }
    },
    takeFiles(store, { fileSize: MOST_BYTES, files: 1 }),
  );
}
