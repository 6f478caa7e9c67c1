// The thread that rewrites footage.
import { answering } from '../ownThread.ts';
import { mattesApart } from './mattesApart.ts';
import type { IncomingFile } from './sequence.ts';
import { tiffAsExr } from './tiffAsExr.ts';

export type Asked =
  { as: 'mattes apart'; file: IncomingFile; folder: string } | { as: 'OpenEXR'; tiff: IncomingFile; to: string };
export default answering((asked: Asked): Promise<unknown> =>
  asked.as === 'mattes apart' ? mattesApart(asked.file, asked.folder) : tiffAsExr(asked.tiff, asked.to),
);
