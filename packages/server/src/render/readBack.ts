// A rendered file read again before it is handed over: is it what was rendered?
import { createHash } from 'node:crypto';
import type { ReadBack } from '@mellow/contract';
import { decodeWritten } from '../media/decode.ts';
import { hashFile } from '../media/hashes.ts';
import { PIXELS, type Outgoing, type PictureOutput } from './presets/output.ts';

/** Hash of a frame's samples, plane by plane. */
export function hashOfFrame(planes: readonly Uint8Array[]): string {
  const hash = createHash('sha256');
  for (const plane of planes) hash.update(plane);
  return hash.digest('base64');
}

/** Frames that are only counted need be no larger. */
const COUNTED = { filters: 'scale=16:16', pixels: 'gray', bytesPerFrame: 256 };

/**
 * Decodes what was written. `given`: the hash of every frame as the encoder got it, in their order. Throws where a
 * frame is missing, or, of a format that keeps every bit, is another.
 */
export async function readBack(
  preset: PictureOutput,
  media: Outgoing,
  output: string,
  given: readonly string[],
  signal: AbortSignal,
): Promise<ReadBack> {
  const { isExact, samples, framesIn } = preset;
  const input = { path: output, startNumber: framesIn ? media.firstFrame : null, fps: media.fps };
  const bytes = media.width * media.height * 3 * (samples === 'float' ? 4 : 2);
  const as = isExact ? { filters: 'null', pixels: PIXELS[samples], bytesPerFrame: bytes } : COUNTED;
  let frames = 0;
  for await (const frame of decodeWritten(input, as, signal)) {
    if (isExact && hashOfFrame([frame]) !== given[frames])
      throw new Error(`frame ${media.firstFrame + frames} of the file is not what was rendered`);
    frames++;
  }
  if (frames !== given.length) throw new Error(`the file holds ${frames} frames, ${given.length} were rendered`);
  return { frames, isExact, sha256: framesIn ? null : await hashFile(output, signal) };
}
