import { join } from 'node:path';
import { frameCount, type Span } from '@mellow/contract';
import type { CodePicture } from '@mellow/core';
import type { StoredMedia } from '../db/media.ts';
import { alphaFilters, fieldFilters, lumaFilters, pickedRgbFilters, rawFormat, toRgbFilters } from './conversion.ts';
import { FfmpegFailed, inputArgs, spawnDecoder } from './ffmpeg.ts';
import { framesFolder, mediaFolder, type MediaStore } from './store.ts';

export const inputOf = (store: MediaStore, { media, files }: StoredMedia): string[] =>
  inputArgs({
    path: join(mediaFolder(store, files.folder), files.input),
    startNumber: files.startNumber,
    fps: media.fps,
  });

/**
 * Input arguments that begin at a frame where the footage allows it, and how many frames still come before it.
 */
function inputFrom(store: MediaStore, stored: StoredMedia, frame: number): { input: string[]; before: number } {
  const { media, files } = stored;
  // a field is made whole out of the frames around it
  const lead = media.isDeinterlaced ? Math.min(1, frame) : 0;
  const first = frame - lead;
  if (files.startNumber !== null)
    return {
      input: inputOf(store, { media, files: { ...files, startNumber: files.startNumber + first } }),
      before: lead,
    };
  const { firstFrameSeconds } = files;
  if (first === 0 || firstFrameSeconds === null || firstFrameSeconds === undefined)
    return { input: inputOf(store, stored), before: frame };
  // half a frame early: rounding of times then never loses the frame that is meant
  const seconds = firstFrameSeconds + ((first - 0.5) * media.fps.den) / media.fps.num;
  return { input: ['-ss', seconds.toFixed(6), ...inputOf(store, stored)], before: lead };
}

/** The filter that leaves out the first frames. */
const skipping = (frames: number): string => (frames > 0 ? `select=gte(n\\,${frames}),` : '');

/** R, G, B planes of one raw gbrp frame (planes come as G, B, R); the bytes are not copied. */
function pictureFromRaw(bytes: Buffer, width: number, height: number, float: boolean): CodePicture {
  const n = width * height;
  const Plane = float ? Float32Array : Uint16Array;
  const plane = (i: number) =>
    new Plane(bytes.buffer as ArrayBuffer, bytes.byteOffset + i * n * Plane.BYTES_PER_ELEMENT, n);
  return { width, height, g: plane(0), b: plane(1), r: plane(2) };
}

interface Decoding {
  size?: { width: number; height: number } | undefined;
  signal?: AbortSignal | undefined;
  by?: 'averaged' | 'picked';
  /** First and last frame, both included; left out: all. */
  span?: Span | undefined;
}
/**
 * Frames of a media in order, decoded forwards in 16 bits or float, at full size or scaled to `size`, by
 * averaging pixels or by picking some of them out. Reading slowly
 * slows ffmpeg down: memory holds a frame or two however long the shot. Throws FfmpegFailed where decoding breaks off.
 */
export async function* decodeFrames(
  store: MediaStore,
  stored: StoredMedia,
  { size, signal, by = 'averaged', span }: Decoding = {},
): AsyncGenerator<CodePicture> {
  const { media } = stored;
  const { width, height } = size ?? media;
  const format = rawFormat(media);
  const float = format === 'gbrpf32le';
  const { input, before } = span ? inputFrom(store, stored, span.from) : { input: inputOf(store, stored), before: 0 };
  const toRgb = by === 'picked' && size ? pickedRgbFilters(media, format, size) : toRgbFilters(media, format, size);
  for await (const frame of rawFrames(
    input,
    `${fieldFilters(media)}${skipping(before)}${toRgb}`,
    format,
    width * height * 3 * (float ? 4 : 2),
    signal,
    span && frameCount(span),
  ))
    yield pictureFromRaw(frame, width, height, float);
}

/** The alpha channel of a media's frames as 16-bit codes, scaled to `size`. */
export async function* decodeAlpha(
  store: MediaStore,
  stored: StoredMedia,
  size: { width: number; height: number },
  signal?: AbortSignal,
): AsyncGenerator<Uint16Array> {
  const n = size.width * size.height;
  for await (const frame of rawFrames(
    inputOf(store, stored),
    `${fieldFilters(stored.media)}${alphaFilters(size, 'gray16le')}`,
    'gray16le',
    n * 2,
    signal,
  ))
    yield new Uint16Array(frame.buffer, frame.byteOffset, n);
}

/** Luma of frames `first`..`last` (both included) as full-range 16-bit codes, at full size. */
export async function* decodeLuma(
  store: MediaStore,
  stored: StoredMedia,
  first: number,
  last: number,
  signal?: AbortSignal,
): AsyncGenerator<Uint16Array> {
  const n = stored.media.width * stored.media.height;
  const { input, before } = inputFrom(store, stored, first);
  const filters = `${fieldFilters(stored.media)}${skipping(before)}${lumaFilters(stored.media)}`;
  for await (const frame of rawFrames(input, filters, 'gray16le', n * 2, signal, last - first + 1))
    yield new Uint16Array(frame.buffer, frame.byteOffset, n);
}

/** The small pictures that are kept of a media's frames, smaller still: bytes of R, G, B in turn, row by row. */
export async function* decodeThumbs(
  store: MediaStore,
  { media }: StoredMedia,
  { width, height }: { width: number; height: number },
  signal?: AbortSignal,
): AsyncGenerator<Uint8Array> {
  const path = join(framesFolder(store, media.id, 'thumb'), '%06d.png');
  const input = inputArgs({ path, startNumber: 0, fps: media.fps });
  yield* rawFrames(input, `scale=${width}:${height}:flags=area`, 'rgb24', width * height * 3, signal);
}

/** Decoded frames as raw bytes, each in memory of its own. */
async function* rawFrames(
  input: string[],
  filters: string,
  format: string,
  bytesPerFrame: number,
  signal?: AbortSignal,
  most?: number,
): AsyncGenerator<Buffer> {
  const child = spawnDecoder([
    ...input,
    '-map',
    '0:v:0',
    '-fps_mode',
    'passthrough',
    '-vf',
    filters,
    ...(most === undefined ? [] : ['-frames:v', String(most)]),
    '-f',
    'rawvideo',
    '-pix_fmt',
    format,
    'pipe:1',
  ]);
  let stderr = '';
  child.stderr.on('data', (d: Buffer) => (stderr = (stderr + d.toString()).slice(-4000)));
  const ended = new Promise<number | null>((resolve) => child.on('close', resolve));
  const stop = () => child.kill('SIGKILL');
  signal?.addEventListener('abort', stop);
  try {
    let frame = Buffer.from(new ArrayBuffer(bytesPerFrame));
    let filled = 0;
    for await (const chunk of child.stdout as AsyncIterable<Buffer>) {
      for (let at = 0; at < chunk.length;) {
        const taken = Math.min(bytesPerFrame - filled, chunk.length - at);
        chunk.copy(frame, filled, at, at + taken);
        filled += taken;
        at += taken;
        if (filled < bytesPerFrame) continue;
        yield frame;
        frame = Buffer.from(new ArrayBuffer(bytesPerFrame));
        filled = 0;
      }
    }
    signal?.throwIfAborted();
    if ((await ended) !== 0) throw new FfmpegFailed(stderr);
  } finally {
    signal?.removeEventListener('abort', stop);
    stop();
  }
}
