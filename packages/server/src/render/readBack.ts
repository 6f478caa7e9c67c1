// A rendered file read again before it is handed over: is it what was rendered?
import type { ReadBack } from '@mellow/contract';
import { hashFrames, inputArgs } from '../media/ffmpeg.ts';
import { hashFile } from '../media/hashes.ts';
import { PIXELS, type Outgoing, type PictureOutput } from './presets/output.ts';

/** Throws where a frame is missing or another than was given. `first`: the number of the first; `what`: holds them. */
export function assertSame(given: readonly string[], found: readonly string[], first: number, what: string): void {
  const other = found.findIndex((hash, i) => i < given.length && hash !== given[i]);
  if (other >= 0) throw new Error(`frame ${first + other} of ${what} is not what was rendered`);
  if (found.length !== given.length)
    throw new Error(`${what} holds ${found.length} frames, ${given.length} were rendered`);
}

/** Frames that are only counted need be no larger. */
const COUNTED = { filters: 'scale=16:16', pixels: 'gray' };

/**
 * Decodes what was written. `given`: the hash of every frame as the encoder got it, in their order. Throws where a
 * frame is missing, or, of a format that keeps every bit, is another.
 */
export async function readBack(
  { isExact, samples, framesIn }: PictureOutput,
  media: Outgoing,
  output: string,
  given: readonly string[],
  signal: AbortSignal,
): Promise<ReadBack> {
  const input = inputArgs({ path: output, startNumber: framesIn ? media.firstFrame : null, fps: media.fps });
  const as = isExact ? { filters: 'null', pixels: PIXELS[samples] } : COUNTED;
  const found = await hashFrames(input, as, signal);
  // where nothing is kept to the bit, frames are counted
  assertSame(given, isExact ? found : found.map((_, i) => given[i] ?? ''), media.firstFrame, 'the file');
  return { frames: found.length, isExact, sha256: framesIn ? null : await hashFile(output, signal) };
}
