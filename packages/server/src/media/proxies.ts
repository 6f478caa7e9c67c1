import { mkdir, readdir, rename, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { hasAlpha, proxySize, THUMB_WIDTH, type FrameSize, type Media } from '@mellow/contract';
import type { StoredMedia } from '../db/media.ts';
import { alphaFilters, fieldFilters, toRgbFilters } from './conversion.ts';
import { inputOf } from './decode.ts';
import { runFfmpeg } from './ffmpeg.ts';
import { framesFolder, type MediaStore } from './store.ts';
import { words } from './words.ts';

const sizesOf = (media: Media): FrameSize[] => [
  'proxy',
  'thumb',
  ...(hasAlpha(media.pixelFormat) ? (['alpha'] as const) : []),
];

/** True once all frames of all sizes are there. */
export async function hasProxies(store: MediaStore, { media }: StoredMedia): Promise<boolean> {
  for (const size of sizesOf(media))
    if ((await readdir(framesFolder(store, media.id, size)).catch(() => [])).length !== media.frames) return false;
  return true;
}

/**
 * Writes the frames that browsers read: 8-bit PNG of the full-range code values, `proxy` and `thumb` size, and
 * the alpha channel where there is one. They appear
 * under their final names only when all are done, so nobody ever sees half of them.
 */
export async function makeProxies(
  store: MediaStore,
  stored: StoredMedia,
  onFrame: (done: number) => void,
  signal: AbortSignal,
): Promise<void> {
  const { media } = stored;
  const sizes = sizesOf(media);
  const part = (size: FrameSize) => `${framesFolder(store, media.id, size)}.part`;
  for (const size of sizes) {
    await rm(part(size), { recursive: true, force: true });
    await mkdir(part(size), { recursive: true });
  }
  const filters = (limit?: number) => toRgbFilters(media, 'gbrp', proxySize(media.width, media.height, limit));
  const png = (format: string) => [
    ...words('-fps_mode passthrough -f image2 -start_number 0 -c:v png -pix_fmt'),
    format,
    '-pred',
    'up',
    '-compression_level',
    '1',
  ];
  const alpha = sizes.includes('alpha');
  const { width, height } = proxySize(media.width, media.height);
  await runFfmpeg(
    [
      ...inputOf(store, stored),
      '-filter_complex',
      `[0:v:0]${fieldFilters(media)}split=${sizes.length}[a][b]${alpha ? '[c]' : ''};[a]${filters()}[p];` +
        `[b]${filters(THUMB_WIDTH)}[t]${alpha ? `;[c]${alphaFilters({ width, height }, 'gray')}[m]` : ''}`,
      '-map',
      '[p]',
      ...png('rgb24'),
      join(part('proxy'), '%06d.png'),
      '-map',
      '[t]',
      ...png('rgb24'),
      join(part('thumb'), '%06d.png'),
      ...(alpha ? ['-map', '[m]', ...png('gray'), join(part('alpha'), '%06d.png')] : []),
    ],
    { onFrame, signal },
  );
  const made = (await readdir(part('proxy'))).length;
  if (made !== media.frames) throw new Error(`${made} of ${media.frames} frames came out of the decoder`);
  for (const size of sizes) {
    await rm(framesFolder(store, media.id, size), { recursive: true, force: true });
    await rename(part(size), framesFolder(store, media.id, size));
  }
}
