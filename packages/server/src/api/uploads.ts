import { randomUUID } from 'node:crypto';
import type { RequestHandler } from 'express';
import multer, { MulterError } from 'multer';
import { Refused } from '../errors.ts';
import type { MediaStore } from '../media/store.ts';

/** What busboy says of a body that is no multipart form is the client's fault; a full disk, say, is not. */
function asRefusal(error: unknown): unknown {
  if (!(error instanceof Error) || error instanceof MulterError || 'code' in error) return error;
  return new Refused('invalid-input', `The upload could not be read: ${error.message}.`);
}

/** Takes the files of the form's field `files` into staging, as `request.files`; whoever handles them removes them. */
export function takeFiles({ staging }: MediaStore, limits: { fileSize: number; files: number }): RequestHandler {
  const upload = multer({
    storage: multer.diskStorage({
      destination: staging,
      filename: (_request, _file, done) => done(null, `${randomUUID()}.upload`),
    }),
    limits,
  });
  return (request, response, next) =>
    upload.array('files')(request, response, (error: unknown) => next(error && asRefusal(error)));
}
