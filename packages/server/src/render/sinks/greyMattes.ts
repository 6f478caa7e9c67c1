import { mkdir } from 'node:fs/promises';
import { join } from 'node:path';
import { rawGrey } from '../presets/output.ts';
import { hashFrames, inputArgs } from '../../media/ffmpeg.ts';
import { words } from '../../media/words.ts';
import { assertSame } from '../readBack.ts';
import { stillArgs } from '../stills.ts';
import { FfmpegPipe } from './ffmpegPipe.ts';
import type { FrameSink, SinkJob } from './frameSink.ts';

const pathOf = (framesIn: string, piece: string): string => join(framesIn, piece, `${piece}.%06d.png`);
/**
 * A folder a piece, in it one grey PNG of 16 bits a frame: 0 is out, 65535 is in. One ffmpeg writes them all: the
 * mattes of a frame come to it one after the other, behind them what any piece selects, and each output takes its own.
 */
export async function greyMattes({ media, folder, pieces, turn }: SinkJob, framesIn: string): Promise<FrameSink> {
  const inTurn = pieces.length + 1;
  const every = (k: number) => `select=eq(mod(n\\,${inTurn})\\,${k})`;
  const outputs: string[] = [];
  for (const [k, piece] of pieces.entries()) {
    await mkdir(join(framesIn, piece), { recursive: true });
    const png = '-c:v png -pix_fmt gray16be -pred up -compression_level 3';
    const args = words(`-fps_mode passthrough -f image2 -start_number ${media.firstFrame} ${png}`);
    outputs.push('-map', '0:v', '-vf', every(k), ...args, pathOf(framesIn, piece));
  }
  outputs.push(...stillArgs(media, folder, { first: every(pieces.length) }));
  const pipe = await FfmpegPipe.open([...rawGrey(media), ...outputs], turn);
  const given = pieces.map((): string[] => []);
  return {
    async write({ parts, hashes }) {
      for (const [k, hash] of hashes.entries()) given[k]!.push(hash);
      await pipe.write(parts);
    },
    async readBack(signal) {
      const { firstFrame, fps, frames } = media;
      for (const [k, piece] of pieces.entries()) {
        const input = inputArgs({ path: pathOf(framesIn, piece), startNumber: firstFrame, fps });
        const found = await hashFrames(input, { filters: 'null', pixels: 'gray16le' }, signal);
        assertSame(given[k]!, found, firstFrame, `the matte of ${piece}`);
      }
      return { frames, isExact: true, sha256: null };
    },
    end: () => pipe.end(),
    stop: () => pipe.stop(),
  };
}
