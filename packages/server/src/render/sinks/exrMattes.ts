import { mkdir, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { exrFile } from './exrFile.ts';
import { matteStills } from './matteStills.ts';
import type { MatteSink, SinkJob } from './frameSink.ts';

/** One OpenEXR file a frame, with a half-float channel a piece, named after it. */
export async function exrMattes(job: SinkJob, framesIn: string): Promise<MatteSink> {
  await mkdir(framesIn, { recursive: true });
  const stills = matteStills(job);
  const { width, height } = job.media;
  const pixelAspect = job.media.pixelAspect.num / job.media.pixelAspect.den;
  const stem = job.fileName.replace(/\.zip$/, '');
  let frame = job.media.firstFrame;
  return {
    async write(mattes) {
      const channels = job.pieces.map((name, k) => ({ name, plane: mattes[k]! }));
      const number = String(frame++).padStart(6, '0');
      await writeFile(join(framesIn, `${stem}.${number}.exr`), await exrFile({ width, height, pixelAspect, channels }));
      await stills.write(mattes);
    },
    end: () => stills.end(),
    stop: () => stills.stop(),
  };
}
