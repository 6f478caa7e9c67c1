import { join } from 'node:path';
import { frameCount, holdsFloats, proxySize, type Span } from '@mellow/contract';
import { roundedToHalves, type CodePicture } from '@mellow/core';
import type { StoredMedia } from '../db/media.ts';
import { alphaFilters, fieldFilters, lumaFilters, pickedRgbFilters, rawFormat, toRgbFilters } from './conversion.ts';
import { inputArgs } from './ffmpeg.ts';
import { rawFrames, type FramesFrom } from './rawFrames.ts';
import { framesFolder, mediaFolder, type MediaStore } from './store.ts';

export const inputOf = (store: MediaStore, { media, files }: StoredMedia): string[] =>
  inputArgs({
    path: join(mediaFolder(store, files.folder), files.input),
    startNumber: files.startNumber,
    fps: media.fps,
  });

/** Whether it can be decoded from any frame on; where not, what comes before is decoded too. */
export const canBeginAnywhere = ({ files }: StoredMedia): boolean =>
  files.startNumber !== null || typeof files.firstFrameSeconds === 'number';

/** Input arguments that begin at a frame where the footage allows it, and how many frames still come before it. */
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

/** ffmpeg's input, and the filters through which frames from one on come, made whole where they are of two fields. */
export function begunAt(store: MediaStore, stored: StoredMedia, frame: number): { input: string[]; filters: string } {
  const { input, before } = inputFrom(store, stored, frame);
  return { input, filters: `${fieldFilters(stored.media)}${skipping(before)}` };
}
const framesFrom =
  (store: MediaStore, stored: StoredMedia, first: number, then: string): FramesFrom['from'] =>
  (frame) => {
    const { input, filters } = begunAt(store, stored, first + frame);
    return { input, filters: filters + then };
  };

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
  const { media } = stored;
  const wanted: FramesFrom = {
    from: framesFrom(store, stored, span?.from ?? 0, toRgb),
    format,
    bytesPerFrame: size.width * size.height * 3 * SAMPLES[format].BYTES_PER_ELEMENT,
    due: span ? frameCount(span) : media.frames,
    isPart: span !== undefined,
  };
  for await (const frame of rawFrames(wanted, signal)) yield pictureFromRaw(frame, size, format);
}

/** The alpha channel of a media's frames as 16-bit codes, scaled to `size`. */
export async function* decodeAlpha(
  store: MediaStore,
  stored: StoredMedia,
  size: Size,
  signal?: AbortSignal,
): AsyncGenerator<Uint16Array> {
  const n = size.width * size.height;
  const wanted: FramesFrom = {
    from: framesFrom(store, stored, 0, alphaFilters(size, 'gray16le')),
    format: 'gray16le',
    bytesPerFrame: n * Uint16Array.BYTES_PER_ELEMENT,
    due: stored.media.frames,
    isPart: false,
  };
  for await (const frame of rawFrames(wanted, signal)) yield new Uint16Array(frame.buffer, frame.byteOffset, n);
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
  const wanted: FramesFrom = {
    from: framesFrom(store, stored, first, lumaFilters(stored.media)),
    format: 'gray16le',
    bytesPerFrame: n * Uint16Array.BYTES_PER_ELEMENT,
    due: last - first + 1,
    isPart: true,
  };
  for await (const frame of rawFrames(wanted, signal)) yield new Uint16Array(frame.buffer, frame.byteOffset, n);
}

/** The small pictures that are kept of a media's frames, smaller still: bytes of R, G, B in turn, row by row. */
export async function* decodeThumbs(
  store: MediaStore,
  { media }: StoredMedia,
  { width, height }: { width: number; height: number },
  signal?: AbortSignal,
): AsyncGenerator<Uint8Array> {
  const path = join(framesFolder(store, media.id, 'thumb'), '%06d.png');
  const wanted: FramesFrom = {
    from: (frame) => ({
      input: inputArgs({ path, startNumber: frame, fps: media.fps }),
      filters: `scale=${width}:${height}:flags=area`,
    }),
    format: 'rgb24',
    bytesPerFrame: width * height * 3,
    due: media.frames,
    isPart: false,
  };
  yield* rawFrames(wanted, signal);
}
