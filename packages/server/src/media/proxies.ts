import { mkdir, readdir, rename, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { hasAlpha, holdsFloats, proxySize, THUMB_WIDTH, type FrameSize, type Media } from '@mellow/contract';
import { bytesFromFloats } from '@mellow/core';
import type { StoredMedia } from '../db/media.ts';
import { FfmpegPipe } from '../render/sinks/ffmpegPipe.ts';
import { alphaFilters, litFilters, toRgbFilters } from './conversion.ts';
import { begunAt, canBeginAnywhere, decodeFrames } from './decode.ts';
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

/**
 * So many frames are decoded and written in one run of ffmpeg, which others wait for: at a few milliseconds each, it is
 * long beside what it takes to begin one.
 */
const FRAMES_IN_TURN = 240;
/** So many are held, and written as floats at once: an encoder that waited for frames would keep its turn for long. */
const FLOATS_IN_TURN = 8;
const pngFrom = (frame: number) =>
  words(`-f image2 -start_number ${frame} -c:v png -pred up -compression_level 1 -pix_fmt`);

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
  const inTurn = canBeginAnywhere(stored) ? FRAMES_IN_TURN : media.frames;
  for (let first = 0; first < media.frames; first += inTurn) {
    // the last run takes all that comes: more frames than there should be are told
    const isLast = first + inTurn >= media.frames;
    const args = seenArgs(store, stored, part, { first, most: isLast ? undefined : inTurn });
    await runFfmpeg(args, { onFrame: (done) => onFrame(first + done), signal });
  }
}

function seenArgs(
  store: MediaStore,
  stored: StoredMedia,
  part: (size: FrameSize) => string,
  { first, most }: { first: number; most: number | undefined },
): string[] {
  const { media } = stored;
  const sizes = sizesOf(media).filter((size) => size !== 'half');
  const toEye = holdsFloats(media.pixelFormat) ? litFilters : toRgbFilters;
  const scaled = (limit?: number) => toEye(media, 'gbrp', proxySize(media.width, media.height, limit));
  const { input, filters } = begunAt(store, stored, first);
  const alpha = sizes.includes('alpha');
  const { width, height } = proxySize(media.width, media.height);
  const png = (of: string, format: string, size: FrameSize) => [
    ...words(`-map ${of} -fps_mode passthrough`),
    ...(most === undefined ? [] : ['-frames:v', String(most)]),
    ...pngFrom(first),
    format,
    join(part(size), '%06d.png'),
  ];
  return [
    ...input,
    '-filter_complex',
    `[0:v:0]${filters}split=${sizes.length}[a][b]${alpha ? '[c]' : ''};[a]${scaled()}[p];` +
      `[b]${scaled(THUMB_WIDTH)}[t]${alpha ? `;[c]${alphaFilters({ width, height }, 'gray')}[m]` : ''}`,
    ...png('[p]', 'rgb24', 'proxy'),
    ...png('[t]', 'rgb24', 'thumb'),
    ...(alpha ? png('[m]', 'gray', 'alpha') : []),
  ];
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
  let done = 0;
  let held: Uint8Array[] = [];
  const writeHeld = async () => {
    const pipe = await FfmpegPipe.open([...raw, ...pngFrom(done), 'rgb24', join(folder, '%06d.png')]);
    try {
      await pipe.write(held);
      await pipe.end();
    } catch (error) {
      pipe.stop();
      throw error;
    }
    done += held.length;
    held = [];
    onFrame(done);
  };
  for await (const frame of decodeFrames(store, stored, { size, signal })) {
    held.push(bytesFromFloats(frame));
    if (held.length === FLOATS_IN_TURN) await writeHeld();
  }
  if (held.length > 0) await writeHeld();
}
