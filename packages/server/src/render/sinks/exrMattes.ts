import { mkdir, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { exrFault } from '../../media/exr.ts';
import { hashFile } from '../../media/hashes.ts';
import { assertSame } from '../readBack.ts';
import { rawGrey } from '../presets/output.ts';
import { stillArgs } from '../stills.ts';
import { FfmpegPipe } from './ffmpegPipe.ts';
import type { FrameSink, SinkJob } from './frameSink.ts';

/** One OpenEXR file a frame, with a half-float channel a piece, named after it; an ffmpeg makes the small pictures. */
export async function exrMattes(job: SinkJob, framesIn: string): Promise<FrameSink> {
  await mkdir(framesIn, { recursive: true });
  const stills = await FfmpegPipe.open([...rawGrey(job.media), ...stillArgs(job.media, job.folder)], job.turn);
  const stem = job.fileName.replace(/\.zip$/, '');
  const { firstFrame } = job.media;
  const pathOf = (n: number) => join(framesIn, `${stem}.${String(firstFrame + n).padStart(6, '0')}.exr`);
  const given: string[] = [];
  return {
    async write({ parts: [file, still], hashes }) {
      await writeFile(pathOf(given.length), file!);
      given.push(...hashes);
      await stills.write([still!]);
    },
    async readBack(signal) {
      const found: string[] = [];
      for (const [n] of given.entries()) {
        signal.throwIfAborted();
        const fault = await exrFault(pathOf(n));
        if (fault) throw new Error(`frame ${firstFrame + n} of the mattes ${fault}`);
        found.push(await hashFile(pathOf(n), signal));
      }
      assertSame(given, found, firstFrame, 'the mattes');
      return { frames: found.length, isExact: true, sha256: null };
    },
    end: () => stills.end(),
    stop: () => stills.stop(),
  };
}
