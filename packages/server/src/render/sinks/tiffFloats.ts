import { mkdir, readdir, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { framesIn } from '../presets/framesIn.ts';
import { rawInput } from '../presets/output.ts';
import { stillArgs } from '../stills.ts';
import { FfmpegPipe } from './ffmpegPipe.ts';
import type { FrameSink, SinkJob } from './frameSink.ts';

/** One TIFF of floats a frame; an ffmpeg makes the small pictures. */
export async function tiffFloats({ media, folder, fileName, hashOfTiff, turn }: SinkJob): Promise<FrameSink> {
  const target = framesIn(folder);
  await mkdir(target, { recursive: true });
  const pipe = await FfmpegPipe.open([...rawInput(media, 'float'), ...stillArgs(media, folder)], turn);
  const stem = fileName.replace(/\.zip$/, '');
  const pathOf = (n: number) => join(target, `${stem}.${String(media.firstFrame + n).padStart(6, '0')}.tif`);
  const given: string[] = [];
  return {
    async write({ parts: [file, ...planes], hashes }) {
      await writeFile(pathOf(given.length), file!);
      given.push(...hashes);
      await pipe.write(planes);
    },
    end: () => pipe.end(),
    stop: () => pipe.stop(),
    async readBack(signal) {
      for (const [n, hash] of given.entries()) {
        signal.throwIfAborted();
        if ((await hashOfTiff(pathOf(n))) !== hash)
          throw new Error(`frame ${media.firstFrame + n} of the file is not what was rendered`);
      }
      const frames = (await readdir(target)).length;
      if (frames !== given.length) throw new Error(`there are ${frames} files, ${given.length} frames were rendered`);
      return { frames, isExact: true, sha256: null };
    },
  };
}
