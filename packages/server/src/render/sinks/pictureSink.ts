import { mkdir, readdir, readFile, writeFile } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import type { Encoding } from '@mellow/core';
import type { PictureOutput } from '../presets/output.ts';
import { readBack } from '../readBack.ts';
import { stillArgs } from '../stills.ts';
import { FfmpegPipe } from './ffmpegPipe.ts';
import type { FrameSink, SinkJob } from './frameSink.ts';

/** Rewrites the files of a folder, one after the other. */
async function rewritten(folder: string, change: (file: Buffer) => Buffer): Promise<void> {
  for (const name of await readdir(folder)) {
    const path = join(folder, name);
    await writeFile(path, change(await readFile(path)));
  }
}

/** One ffmpeg for the file, and for the small pictures of it. */
export async function pictureSink(preset: PictureOutput, encoding: Encoding, job: SinkJob): Promise<FrameSink> {
  const output = preset.path(job.folder, job.fileName);
  await mkdir(dirname(output), { recursive: true });
  const small = stillArgs(job.media, job.folder, { filter: preset.stillFilter });
  const pipe = await FfmpegPipe.open([...preset.args(job.media, encoding, output), ...small], job.turn);
  const given: string[] = [];
  return {
    async write({ parts, hashes }) {
      given.push(...hashes);
      await pipe.write(parts);
    },
    readBack: (signal) => readBack(preset, job.media, output, given, signal),
    async end() {
      await pipe.end();
      if (preset.inEncoding) await rewritten(dirname(output), (file) => preset.inEncoding!(file, encoding));
    },
    stop: () => pipe.stop(),
  };
}
