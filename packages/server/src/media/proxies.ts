import { mkdir, readdir, rename, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { proxySize, THUMB_WIDTH } from '@mellow/contract';
import type { StoredMedia } from '../db/media.ts';
import { toRgbFilters } from './conversion.ts';
import { inputOf } from './decode.ts';
import { runFfmpeg } from './ffmpeg.ts';
import { framesFolder, type MediaStore } from './store.ts';

/** True once all frames of both sizes are there. */
export async function hasProxies(store: MediaStore, { media }: StoredMedia): Promise<boolean> {
  const count = async (size: 'proxy' | 'thumb') => (await readdir(framesFolder(store, media.id, size)).catch(() => [])).length;
  return (await count('proxy')) === media.frames && (await count('thumb')) === media.frames;
}

/**
 * Writes the frames that browsers read: 8-bit PNG of the full-range code values, `proxy` and `thumb` size. They appear
 * under their final names only when all are done, so nobody ever sees half of them.
 */
export async function makeProxies(store: MediaStore, stored: StoredMedia, onFrame: (done: number) => void, signal: AbortSignal): Promise<void> {
  const { media } = stored;
  const sizes = ['proxy', 'thumb'] as const;
  const part = (size: (typeof sizes)[number]) => `${framesFolder(store, media.id, size)}.part`;
  for (const size of sizes) {
    await rm(part(size), { recursive: true, force: true });
    await mkdir(part(size), { recursive: true });
  }
  const filters = (limit?: number) => toRgbFilters(media, 'gbrp', proxySize(media.width, media.height, limit));
  const png = ['-fps_mode', 'passthrough', '-f', 'image2', '-start_number', '0', '-c:v', 'png', '-pix_fmt', 'rgb24', '-pred', 'up', '-compression_level', '1'];
  await runFfmpeg(
    [...inputOf(store, stored),
      '-filter_complex', `[0:v:0]split[a][b];[a]${filters()}[p];[b]${filters(THUMB_WIDTH)}[t]`,
      '-map', '[p]', ...png, join(part('proxy'), '%06d.png'), '-map', '[t]', ...png, join(part('thumb'), '%06d.png')],
    { onFrame, signal },
  );
  const made = (await readdir(part('proxy'))).length;
  if (made !== media.frames) throw new Error(`${made} of ${media.frames} frames came out of the decoder`);
  for (const size of sizes) {
    await rm(framesFolder(store, media.id, size), { recursive: true, force: true });
    await rename(part(size), framesFolder(store, media.id, size));
  }
}
