import { mkdir } from 'node:fs/promises';
import { join } from 'node:path';
import { rawGrey } from '../presets/output.ts';
import { hashFrames, inputArgs } from '../../media/ffmpeg.ts';
import { words } from '../../media/words.ts';
import { assertSame } from '../readBack.ts';
import { FfmpegPipe } from './ffmpegPipe.ts';
import { matteStills } from './matteStills.ts';
import type { FrameSink, SinkJob } from './frameSink.ts';

const pathOf = (framesIn: string, piece: string): string => join(framesIn, piece, `${piece}.%06d.png`);
/** A folder a piece, in it one grey PNG of 16 bits a frame: 0 is out, 65535 is in. */
export async function greyMattes(job: SinkJob, framesIn: string): Promise<FrameSink> {
  const pipes: FfmpegPipe[] = [];
  for (const piece of job.pieces) {
    const folder = join(framesIn, piece);
    await mkdir(folder, { recursive: true });
    const png = '-c:v png -pix_fmt gray16be -pred up -compression_level 3';
    const args = words(`-f image2 -start_number ${job.media.firstFrame} ${png}`);
    pipes.push(await FfmpegPipe.open([...rawGrey(job.media), ...args, pathOf(framesIn, piece)]));
  }
  const stills = await matteStills(job);
  const given = job.pieces.map((): string[] => []);
  return {
    async write({ parts, hashes }) {
      for (const [k, pipe] of pipes.entries()) {
        given[k]!.push(hashes[k]!);
        await pipe.write([parts[k]!]);
      }
      await stills.write([parts.at(-1)!]);
    },
    async readBack(signal) {
      const { firstFrame, fps, frames } = job.media;
      for (const [k, piece] of job.pieces.entries()) {
        const input = inputArgs({ path: pathOf(framesIn, piece), startNumber: firstFrame, fps });
        const found = await hashFrames(input, { filters: 'null', pixels: 'gray16le' }, signal);
        assertSame(given[k]!, found, firstFrame, `the matte of ${piece}`);
      }
      return { frames, isExact: true, sha256: null };
    },
    async end() {
      for (const pipe of pipes) await pipe.end();
      await stills.end();
    },
    stop() {
      for (const pipe of [...pipes, stills]) pipe.stop();
    },
  };
}
