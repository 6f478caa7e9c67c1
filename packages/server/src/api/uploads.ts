import { randomUUID } from 'node:crypto';
import { statfs } from 'node:fs/promises';
import type { RequestHandler } from 'express';
import multer, { MulterError } from 'multer';
import { Refused } from '../errors.ts';
import type { MediaStore } from '../media/store.ts';

/** What busboy says of a body that is no multipart form is the client's fault; a full disk, say, is not. */
function asRefusal(error: unknown): unknown {
  if (!(error instanceof Error) || error instanceof MulterError || 'code' in error) return error;
  return new Refused('invalid-input', `The upload could not be read: ${error.message}.`);
}

/** What is no file of a form lies in memory: a rate, a word. */
const FORM_LIMITS = { fieldSize: 1e4, fields: 20, fieldNameSize: 200 };

/** Room that is left to the database, to proxies and to renders. */
const KEPT_FREE_BYTES = 1e9;
/** What would fill the disk is refused before it is sent. Throws Refused. */
export async function assertRoom(folder: string, bytes: number): Promise<void> {
  const { bavail, bsize } = await statfs(folder);
  const room = bavail * bsize - KEPT_FREE_BYTES;
  if (bytes <= room) return;
  const [needed, left] = [bytes, Math.max(room, 0)].map((n) => `${(n / 1e9).toFixed(1)} GB`);
  throw new Refused('storage-full', `The disk of the media folder has room for ${left}; this needs ${needed}.`);
}

/** Takes the files of the form's field `files` into staging, as `request.files`; whoever handles them removes them. */
export function takeFiles({ staging }: MediaStore, limits: { fileSize: number; files: number }): RequestHandler {
  const upload = multer({
    storage: multer.diskStorage({
      destination: staging,
      filename: (_request, _file, done) => done(null, `${randomUUID()}.upload`),
    }),
    limits: { ...limits, ...FORM_LIMITS },
  });
  return async (request, response, next) => {
    await assertRoom(staging, Number(request.get('content-length') ?? 0));
    upload.array('files')(request, response, (error: unknown) => next(error && asRefusal(error)));
  };
}
