// Footage that ffmpeg does not read is rewritten sample by sample, a second and more for a frame of 4K: in a thread of
// its own, so that others are answered meanwhile.
import { OwnThread } from '../ownThread.ts';
import type { Asked } from './rewriteWorker.ts';
import type { IncomingFile } from './sequence.ts';

const thread = new OwnThread<Asked, unknown>(new URL('./rewriteThread.mjs', import.meta.url));
const ask = <Value>(asked: Asked): Promise<Value> => thread.ask(asked) as Promise<Value>;

/** See `mattesApart`. */
export const apart = (file: IncomingFile, folder: string) =>
  ask<IncomingFile[] | undefined>({ as: 'mattes apart', file, folder });
/** See `tiffAsExr`. */
export const asExr = (tiff: IncomingFile, to: string) => ask<void>({ as: 'OpenEXR', tiff, to });

export const closeRewriter = (): Promise<void> => thread.close();
