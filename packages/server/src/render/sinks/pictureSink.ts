import { mkdir, readdir, readFile, writeFile } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import type { CodePlane, Encoding } from '@mellow/core';
import type { PictureOutput, Samples } from '../presets/output.ts';
import { hashOfFrame, readBack } from '../readBack.ts';
import { stillArgs } from '../stills.ts';
import { bytesOf, codes16, FfmpegPipe, toElevenBits } from './ffmpegPipe.ts';
import type { PictureSink, SinkJob } from './frameSink.ts';

function floats(plane: CodePlane): Float32Array {
  if (!(plane instanceof Float32Array)) throw new RangeError('float samples were asked for');
  return plane;
}
const integers = (plane: CodePlane): Uint16Array => {
  if (plane instanceof Float32Array) return codes16(plane);
  return plane instanceof Uint16Array ? plane : Uint16Array.from(plane, (v) => v * 257);
};
const rounded = (plane: CodePlane, maxCode: number): Uint16Array =>
  integers(plane).map((v) => Math.round((v * maxCode) / 65535));
const halfFloats = (plane: CodePlane): Float32Array => floats(plane).map(toElevenBits);
/** A plane as ffmpeg is to have it. */
const AS: Record<Samples, (plane: CodePlane) => Uint16Array | Float32Array> = {
  '16 bit': integers,
  '16 bit, alpha': integers,
  '12 bit': (plane) => rounded(plane, 4095),
  '10 bit': (plane) => rounded(plane, 1023),
  float: floats,
  'float, alpha': floats,
  half: halfFloats,
  'half, alpha': halfFloats,
};

/** Rewrites the files of a folder, one after the other. */
async function rewritten(folder: string, change: (file: Buffer) => Buffer): Promise<void> {
  for (const name of await readdir(folder)) {
    const path = join(folder, name);
    await writeFile(path, change(await readFile(path)));
  }
}

/** One ffmpeg for the file, and for the small pictures of it. */
export async function pictureSink(preset: PictureOutput, encoding: Encoding, job: SinkJob): Promise<PictureSink> {
  const output = preset.path(job.folder, job.fileName);
  await mkdir(dirname(output), { recursive: true });
  const pipe = new FfmpegPipe([
    ...preset.args(job.media, encoding, output),
    ...stillArgs(job.media, job.folder, preset.stillFilter),
  ]);
  const given: string[] = [];
  return {
    async write({ r, g, b, alpha }) {
      const planes = [g, b, r, ...(alpha ? [alpha] : [])].map((plane) => bytesOf(AS[preset.samples](plane)));
      given.push(preset.isExact ? hashOfFrame(planes) : '');
      await pipe.write(planes);
    },
    readBack: (signal) => readBack(preset, job.media, output, given, signal),
    async end() {
      await pipe.end();
      if (preset.inEncoding) await rewritten(dirname(output), (file) => preset.inEncoding!(file, encoding));
    },
    stop: () => pipe.stop(),
  };
}
