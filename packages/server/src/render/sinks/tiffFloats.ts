import { mkdir, readdir, readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { CodePlane } from '@mellow/core';
import { framesIn } from '../presets/framesIn.ts';
import { rawInput } from '../presets/output.ts';
import { hashOfFrame } from '../readBack.ts';
import { stillArgs } from '../stills.ts';
import { bytesOf, FfmpegPipe } from './ffmpegPipe.ts';
import type { PictureSink, SinkJob } from './frameSink.ts';
import { floatsOfTiff, tiffFile } from './tiffFile.ts';

function assertFloats(plane: CodePlane): asserts plane is Float32Array {
  if (!(plane instanceof Float32Array)) throw new RangeError('float samples were asked for');
}

/** One TIFF of floats a frame; an ffmpeg makes the small pictures. */
export async function tiffFloats({ media, folder, fileName }: SinkJob): Promise<PictureSink> {
  const target = framesIn(folder);
  await mkdir(target, { recursive: true });
  const pipe = new FfmpegPipe([...rawInput(media, 'float'), ...stillArgs(media, folder)]);
  const { width, height } = media;
  const stem = fileName.replace(/\.zip$/, '');
  const pathOf = (n: number) => join(target, `${stem}.${String(media.firstFrame + n).padStart(6, '0')}.tif`);
  const given: string[] = [];
  return {
    async write({ r, g, b }) {
      assertFloats(r);
      assertFloats(g);
      assertFloats(b);
      const planes = [g, b, r].map(bytesOf);
      await writeFile(pathOf(given.length), await tiffFile({ width, height, r, g, b }));
      given.push(hashOfFrame(planes));
      await pipe.write(planes);
    },
    end: () => pipe.end(),
    stop: () => pipe.stop(),
    async readBack(signal) {
      for (const [n, hash] of given.entries()) {
        signal.throwIfAborted();
        const { r, g, b } = await floatsOfTiff(await readFile(pathOf(n)));
        if (hashOfFrame([g, b, r].map(bytesOf)) !== hash)
          throw new Error(`frame ${media.firstFrame + n} of the file is not what was rendered`);
      }
      const frames = (await readdir(target)).length;
      if (frames !== given.length) throw new Error(`there are ${frames} files, ${given.length} frames were rendered`);
      return { frames, isExact: true, sha256: null };
    },
  };
}
