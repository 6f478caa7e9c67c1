// Files on their way to the server, which go on from where they were broken off (tus 1.0.0, tus.io/protocols).
import { z } from 'zod';
import { Sha256 } from './entities.ts';
import { ImportOptions } from './media.ts';

export const UploadId = z.uuid().brand<'UploadId'>();
export type UploadId = z.infer<typeof UploadId>;

/** A file of one's own that is here, or on its way. */
export const Upload = z.object({
  id: UploadId,
  name: z.string(),
  bytes: z.number().int().nonnegative(),
  /** How many of them are here: it goes on from there. */
  here: z.number().int().nonnegative(),
  /** When its file was changed last, ms since 1970: so it is known again when it is chosen again. Null: not told. */
  lastModified: z.number().nullable(),
});
export type Upload = z.infer<typeof Upload>;

/** A file that is here as a whole, and the hash that it had where it came from. */
export const SentFile = z.object({ id: UploadId, sha256: Sha256 });
export type SentFile = z.infer<typeof SentFile>;

/** Footage is made shots of; plates are mattes made elsewhere. */
export const ImportUploads = z.object({
  files: z.array(SentFile).min(1).max(20_000),
  as: z.enum(['footage', 'plates']),
  ...ImportOptions.shape,
});
export type ImportUploads = z.infer<typeof ImportUploads>;
