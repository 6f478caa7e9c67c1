import { mkdir, readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { exrFault } from '../../media/exr.ts';
import { assertSame, hashOfFrame } from '../readBack.ts';
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
  const { firstFrame } = job.media;
  const pathOf = (n: number) => join(framesIn, `${stem}.${String(firstFrame + n).padStart(6, '0')}.exr`);
  const given: string[] = [];
  return {
    async write(mattes) {
      const channels = job.pieces.map((name, k) => ({ name, plane: mattes[k]! }));
      const file = await exrFile({ width, height, pixelAspect, channels });
      await writeFile(pathOf(given.length), file);
      given.push(hashOfFrame([file]));
      await stills.write(mattes);
    },
    async readBack(signal) {
      const found: string[] = [];
      for (const [n] of given.entries()) {
        signal.throwIfAborted();
        const fault = await exrFault(pathOf(n));
        if (fault) throw new Error(`frame ${firstFrame + n} of the mattes ${fault}`);
        found.push(hashOfFrame([await readFile(pathOf(n))]));
      }
      assertSame(given, found, firstFrame, 'the mattes');
      return { frames: found.length, isExact: true, sha256: null };
    },
    end: () => stills.end(),
    stop: () => stills.stop(),
  };
}
