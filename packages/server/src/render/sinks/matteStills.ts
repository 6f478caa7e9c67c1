import { rawGrey } from '../presets/output.ts';
import { stillArgs } from '../stills.ts';
import { bytesOf, codes16, FfmpegPipe } from './ffmpegPipe.ts';
import type { FrameSink, MatteFrame, SinkJob } from './frameSink.ts';

/** The small pictures of mattes: all pieces of the shot in one. */
export function matteStills({ media, folder }: SinkJob): FrameSink<MatteFrame> {
  const pipe = new FfmpegPipe([...rawGrey(media), ...stillArgs(media, folder)]);
  const length = media.width * media.height;
  return {
    async write(mattes) {
      const all = new Float32Array(length);
      for (const alpha of mattes) for (let i = 0; i < length; i++) all[i] = Math.max(all[i]!, alpha[i]!);
      await pipe.write([bytesOf(codes16(all))]);
    },
    end: () => pipe.end(),
    stop: () => pipe.stop(),
  };
}
