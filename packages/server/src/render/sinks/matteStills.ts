import { rawGrey } from '../presets/output.ts';
import { stillArgs } from '../stills.ts';
import { FfmpegPipe } from './ffmpegPipe.ts';
import type { SinkJob } from './frameSink.ts';

/** The small pictures of mattes, of what any piece of the shot selects. */
export const matteStills = ({ media, folder }: SinkJob): Promise<FfmpegPipe> =>
  FfmpegPipe.open([...rawGrey(media), ...stillArgs(media, folder)]);
