import { mkdir } from 'node:fs/promises';
import { join } from 'node:path';
import { rawGrey } from '../presets/output.ts';
import { words } from '../../media/words.ts';
import { bytesOf, codes16, FfmpegPipe } from './ffmpegPipe.ts';
import { matteStills } from './matteStills.ts';
import type { MatteSink, SinkJob } from './frameSink.ts';

/** A folder a piece, in it one grey PNG of 16 bits a frame: 0 is out, 65535 is in. */
export async function greyMattes(job: SinkJob, framesIn: string): Promise<MatteSink> {
  const pipes: FfmpegPipe[] = [];
  for (const piece of job.pieces) {
    const folder = join(framesIn, piece);
    await mkdir(folder, { recursive: true });
    const png = '-c:v png -pix_fmt gray16be -pred up -compression_level 3';
    const args = words(`-f image2 -start_number ${job.media.firstFrame} ${png}`);
    pipes.push(new FfmpegPipe([...rawGrey(job.media), ...args, join(folder, `${piece}.%06d.png`)]));
  }
  const stills = matteStills(job);
  return {
    async write(mattes) {
      for (const [k, pipe] of pipes.entries()) await pipe.write([bytesOf(codes16(mattes[k]!))]);
      await stills.write(mattes);
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
