import { mkdir, readdir, rename, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { hasAlpha, holdsFloats, proxySize, THUMB_WIDTH, type FrameSize, type Media } from '@mellow/contract';
import { bytesFromFloats } from '@mellow/core';
import type { StoredMedia } from '../db/media.ts';
import { FfmpegPipe } from '../render/sinks/ffmpegPipe.ts';
import { alphaFilters, fieldFilters, litFilters, toRgbFilters } from './conversion.ts';
import { decodeFrames, inputOf } from './decode.ts';
import { runFfmpeg } from './ffmpeg.ts';
import { partOf } from './leftovers.ts';
import { framesFolder, type MediaStore } from './store.ts';
import { words } from './words.ts';

const sizesOf = (media: Media): FrameSize[] => [
  'proxy',
  'thumb',
  ...(hasAlpha(media.pixelFormat) ? (['alpha'] as const) : []),
  ...(holdsFloats(media.pixelFormat) ? (['half'] as const) : []),
];

/** True once all frames of all sizes are there. */
export async function hasProxies(store: MediaStore, { media }: StoredMedia): Promise<boolean> {
  for (const size of sizesOf(media))
    if ((await readdir(framesFolder(store, media.id, size)).catch(() => [])).length !== media.frames) return false;
  return true;
}

const PNG = words('-f image2 -start_number 0 -c:v png -pred up -compression_level 1 -pix_fmt');

/**
 * Writes the frames that browsers read: 8-bit PNG of the full-range code values, `proxy` and `thumb` size, and the
 * alpha channel where there is one. Of floats these are for the eye, and `half` has the floats (see `bytesFromFloats`).
 * They appear under their final names only when all are done, so nobody ever sees half of them.
 */
export async function makeProxies(
  store: MediaStore,
  stored: StoredMedia,
  onFrame: (done: number) => void,
  signal: AbortSignal,
): Promise<void> {
  const { media } = stored;
  const sizes = sizesOf(media);
  const part = (size: FrameSize) => partOf(framesFolder(store, media.id, size));
  for (const size of sizes) {
    await rm(part(size), { recursive: true, force: true });
    await mkdir(part(size), { recursive: true });
  }
  const isFloat = holdsFloats(media.pixelFormat);
  const rounds = isFloat ? 2 : 1;
  await writeSeen(store, stored, part, (done) => onFrame(Math.floor(done / rounds)), signal);
  if (isFloat) {
    const before = Math.floor(media.frames / rounds);
    await writeHalves(store, stored, part('half'), (done) => onFrame(before + Math.floor(done / rounds)), signal);
  }
  const made = (await readdir(part('proxy'))).length;
  if (made !== media.frames) throw new Error(`${made} of ${media.frames} frames came out of the decoder`);
  for (const size of sizes) {
    await rm(framesFolder(store, media.id, size), { recursive: true, force: true });
    await rename(part(size), framesFolder(store, media.id, size));
  }
}

type Report = (done: number) => void;
/** The pictures of 8 bits. */
async function writeSeen(
  store: MediaStore,
  stored: StoredMedia,
  part: (size: FrameSize) => string,
  onFrame: Report,
  signal: AbortSignal,
): Promise<void> {
  const { media } = stored;
  const sizes = sizesOf(media).filter((size) => size !== 'half');
  const toEye = holdsFloats(media.pixelFormat) ? litFilters : toRgbFilters;
  const filters = (limit?: number) => toEye(media, 'gbrp', proxySize(media.width, media.height, limit));
  const png = (format: string) => ['-fps_mode', 'passthrough', ...PNG, format];
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
}

/** The floats, as bytes. */
async function writeHalves(
  store: MediaStore,
  stored: StoredMedia,
  folder: string,
  onFrame: Report,
  signal: AbortSignal,
): Promise<void> {
  const { media } = stored;
  const size = proxySize(media.width, media.height);
  const raw = words(`-f rawvideo -pix_fmt rgb24 -video_size ${size.width}x${2 * size.height} -i pipe:0`);
  const pipe = await FfmpegPipe.open([...raw, ...PNG, 'rgb24', join(folder, '%06d.png')]);
  try {
    let done = 0;
    for await (const frame of decodeFrames(store, stored, { size, signal })) {
      await pipe.write([bytesFromFloats(frame)]);
      onFrame(++done);
    }
    await pipe.end();
  } catch (error) {
    pipe.stop();
    throw error;
  }
}
