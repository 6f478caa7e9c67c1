import { join } from 'node:path';
import { frameCount, holdsFloats, proxySize, type Span } from '@mellow/contract';
import { roundedToHalves, type CodePicture } from '@mellow/core';
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

/** Samples of a format of planar RGB. */
const SAMPLES = { gbrp: Uint8Array, gbrp16le: Uint16Array, gbrpf32le: Float32Array } as const;
type PlanarRgb = keyof typeof SAMPLES;

/** R, G, B planes of one raw frame (they come as G, B, R); the bytes are not copied. */
function pictureFromRaw(bytes: Buffer, { width, height }: Size, format: PlanarRgb): CodePicture {
  const n = width * height;
  const Plane = SAMPLES[format];
  const plane = (i: number) =>
    new Plane(bytes.buffer as ArrayBuffer, bytes.byteOffset + i * n * Plane.BYTES_PER_ELEMENT, n);
  return { width, height, g: plane(0), b: plane(1), r: plane(2) };
}

interface Size {
  width: number;
  height: number;
}
interface Wanted {
  signal?: AbortSignal | undefined;
  /** First and last frame, both included; left out: all. */
  span?: Span | undefined;
}
interface Decoding extends Wanted {
  size?: Size | undefined;
  by?: 'averaged' | 'picked';
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
  const format = rawFormat(media);
  const toRgb = by === 'picked' && size ? pickedRgbFilters(media, format, size) : toRgbFilters(media, format, size);
  yield* rgbFrames(store, stored, format, toRgb, size ?? media, { signal, span });
}

/** The same frames as the viewer has them, to the bit (see `makeProxies`): of proxy size, in 8 bits or half floats. */
export async function* decodeSeen(
  store: MediaStore,
  stored: StoredMedia,
  wanted: Wanted = {},
): AsyncGenerator<CodePicture> {
  const { media } = stored;
  const size = proxySize(media.width, media.height);
  if (holdsFloats(media.pixelFormat))
    for await (const frame of decodeFrames(store, stored, { size, ...wanted })) yield roundedToHalves(frame);
  else yield* rgbFrames(store, stored, 'gbrp', toRgbFilters(media, 'gbrp', size), size, wanted);
}

async function* rgbFrames(
  store: MediaStore,
  stored: StoredMedia,
  format: PlanarRgb,
  toRgb: string,
  size: Size,
  { signal, span }: Wanted,
): AsyncGenerator<CodePicture> {
  const { input, before } = span ? inputFrom(store, stored, span.from) : { input: inputOf(store, stored), before: 0 };
  const filters = `${fieldFilters(stored.media)}${skipping(before)}${toRgb}`;
  const bytes = size.width * size.height * 3 * SAMPLES[format].BYTES_PER_ELEMENT;
  for await (const frame of rawFrames(input, filters, format, bytes, signal, span && frameCount(span)))
    yield pictureFromRaw(frame, size, format);
}

/** The alpha channel of a media's frames as 16-bit codes, scaled to `size`. */
export async function* decodeAlpha(
  store: MediaStore,
  stored: StoredMedia,
  size: Size,
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
  const child = await spawnDecoder([
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
  if (signal?.aborted) stop();
  try {
    // in memory of its own, not filled with zeros first: of a frame of 4K that takes 40 ms
    let frame = Buffer.allocUnsafeSlow(bytesPerFrame);
    let filled = 0;
    for await (const chunk of child.stdout as AsyncIterable<Buffer>) {
      for (let at = 0; at < chunk.length;) {
        const taken = Math.min(bytesPerFrame - filled, chunk.length - at);
        chunk.copy(frame, filled, at, at + taken);
        filled += taken;
        at += taken;
        if (filled < bytesPerFrame) continue;
        yield frame;
        frame = Buffer.allocUnsafeSlow(bytesPerFrame);
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
