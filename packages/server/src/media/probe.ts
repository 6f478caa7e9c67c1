import { open } from 'node:fs/promises';
import { basename } from 'node:path';
import { z } from 'zod';
import type { Fields, Media } from '@mellow/contract';
import { exrChromaticities, exrFault } from './exr.ts';
import { encodingOfPng } from './pngColour.ts';
import { refusedMedia, type Probed, type ProbeInput } from './probed.ts';
import { statedColour } from './statedColour.ts';
import { rateOfFrames, secondsOf } from './timing.ts';
import { FfmpegFailed, ffprobeJson, inputArgs, listPictures } from './ffmpeg.ts';

const MAX_WIDTH = 8192;
const MAX_HEIGHT = 4320;

const Stream = z.looseObject({
  codec_name: z.string().optional(),
  width: z.number().optional(),
  height: z.number().optional(),
  pix_fmt: z.string().optional(),
  color_range: z.string().optional(),
  color_space: z.string().optional(),
  color_primaries: z.string().optional(),
  color_transfer: z.string().optional(),
  field_order: z.string().optional(),
  r_frame_rate: z.string().optional(),
  time_base: z.string().optional(),
  bits_per_raw_sample: z.string().optional(),
  sample_aspect_ratio: z.string().optional(),
  tags: z.record(z.string(), z.string()).optional(),
  side_data_list: z.array(z.looseObject({ rotation: z.number().optional() })).optional(),
});
type Stream = z.infer<typeof Stream>;
const Probe = z.object({
  streams: z.array(Stream),
  format: z
    .looseObject({
      tags: z.record(z.string(), z.string()).optional(),
      format_name: z.string().optional(),
      start_time: z.string().optional(),
    })
    .optional(),
  packets: z.array(z.looseObject({ pts: z.number().optional() })).optional(),
});

/** Containers that list where their key frames lie: seeking in them is exact. */
const INDEXED = /\b(?:mov|mp4|matroska)\b/;

/** By the field that comes first in the file: so ffmpeg's decoders take it, though its words for `tb` say otherwise. */
const FIELDS: Record<string, Fields> = { tt: 'top first', tb: 'top first', bb: 'bottom first', bt: 'bottom first' };

const refuse = (name: string, why: string): never => {
  throw refusedMedia(name, why);
};

/**
 * What a file is, in full, or a refusal that names the property. Decodes every frame once, so that a broken one is
 * found now.
 */
export async function probeMedia(input: ProbeInput, signal?: AbortSignal): Promise<Probed> {
  const { streams, format, packets } = await ffprobed(input);
  const stream = streams[0] ?? refuse(input.name, 'it holds no picture.');
  const { width = 0, height = 0, pix_fmt: pixelFormat = '' } = stream;
  if (!width || !height || !pixelFormat) refuse(input.name, 'it holds no picture that can be decoded.');
  if (width > MAX_WIDTH || height > MAX_HEIGHT)
    refuse(input.name, `its size ${width} × ${height} is over ${MAX_WIDTH} × ${MAX_HEIGHT}.`);
  const turnedDeg = turnOf(input.name, stream);
  const isOnSide = turnedDeg === 90 || turnedDeg === 270;
  const pixelAspect = pixelAspectOf(stream.sample_aspect_ratio, isOnSide);
  const isExr = stream.codec_name === 'exr';
  if (isExr) await assertWholeExrs(input);
  const chromaticities = isExr ? await exrChromaticities(input.files[0]!) : undefined;
  const coded = stream.codec_name === 'png' ? encodingOfPng(await headOf(input.files[0]!)) : undefined;
  const notes: string[] = [];
  const fields = FIELDS[stream.field_order ?? ''] ?? 'progressive';
  if (fields !== 'progressive')
    notes.push(`It is interlaced, ${fields.replace(' ', ' field ')}; of renders, FFV1 and JPEG 2000 say so.`);
  if (turnedDeg !== 0) {
    if (fields !== 'progressive') refuse(input.name, 'it is interlaced and turned; write it upright first.');
    notes.push(`It is turned upright by ${turnedDeg}°; renders are upright.`);
  }
  if (pixelAspect.num !== pixelAspect.den)
    notes.push(`Its pixels are ${pixelAspect.num}:${pixelAspect.den}; they are shown as squares, and renders say so.`);
  const times = (packets ?? [])
    .map((p) => p.pts)
    .filter((p) => p !== undefined)
    .sort((a, b) => a - b);
  const { rate, unevenly } = rateOfFrames(input, stream, times);
  const oneByOne = unevenly !== undefined;
  if (unevenly) notes.push(unevenly);
  const colour = statedColour(input.name, { ...stream, chromaticities, coded }, pixelFormat, { width, height });
  const frames = await countByDecoding(input, stream.codec_name, signal);
  const timecode = tagOf(stream.tags, 'timecode') ?? tagOf(format?.tags, 'timecode') ?? null;
  // a frame that is in the file but not shown (an edit list) would shift all that come after it
  const isIndexed = INDEXED.test(format?.format_name ?? '') && times.length === frames;
  const canSeek = input.startNumber === null && isIndexed && !oneByOne;
  const firstFrameSeconds = canSeek ? times[0]! * secondsOf(stream.time_base) - Number(format?.start_time ?? 0) : null;
  notes.push(...(await soundNotes(input, Number.isFinite(firstFrameSeconds))));
  return {
    described: {
      ...(isOnSide ? { width: height, height: width } : { width, height }),
      turnedDeg,
      pixelAspect,
      fps: rate,
      frames,
      codec: stream.codec_name ?? 'unknown',
      pixelFormat,
      timecode,
      fields,
      isDeinterlaced: false,
      stated: null,
      ...colour,
      notes: [...colour.notes, ...notes],
    },
    firstFrameSeconds: Number.isFinite(firstFrameSeconds) ? firstFrameSeconds : null,
    oneByOne,
  };
}

/** Colour stands before the picture in a PNG. */
const HEAD_BYTES = 4096;
async function headOf(path: string): Promise<Buffer> {
  const file = await open(path);
  try {
    const { buffer, bytesRead } = await file.read(Buffer.alloc(HEAD_BYTES), 0, HEAD_BYTES, 0);
    return buffer.subarray(0, bytesRead);
  } finally {
    await file.close();
  }
}

/** How far clockwise the pictures of a file are to be turned. Throws Refused for what is no quarter. */
function turnOf(name: string, { side_data_list, tags }: Stream): Media['turnedDeg'] {
  // a display matrix turns counter-clockwise, the tag clockwise
  const matrix = side_data_list?.find((d) => d.rotation)?.rotation;
  const turned = (((matrix === undefined ? Number(tags?.rotate ?? 0) : -matrix) % 360) + 360) % 360;
  if (turned === 0 || turned === 90 || turned === 180 || turned === 270) return turned;
  return refuse(name, `it is marked to be shown turned by ${turned}°, which is no quarter; write it upright first.`);
}
/** A pixel's width to its height, once the picture is upright. */
function pixelAspectOf(stated: string | undefined, isOnSide: boolean): Media['pixelAspect'] {
  const [num = 1, den = 1] = (stated ?? '').split(':').map(Number);
  if (!(num > 0 && den > 0)) return { num: 1, den: 1 };
  return isOnSide ? { num: den, den: num } : { num, den };
}

const whyUnread = (error: unknown): string => (error instanceof Error ? error.message : 'unknown format');

async function ffprobed(input: ProbeInput): Promise<z.infer<typeof Probe>> {
  const wanted = ['-select_streams', 'v:0', '-show_streams', '-show_format', '-show_entries', 'packet=pts'];
  try {
    return Probe.parse(await ffprobeJson(input, wanted));
  } catch (error) {
    return refuse(input.name, `it cannot be read as video or image (${whyUnread(error)}).`);
  }
}

/** ffmpeg decodes an EXR that breaks off as if its missing lines were black. */
async function assertWholeExrs({ name, files }: ProbeInput): Promise<void> {
  for (const file of files) {
    const why = await exrFault(file);
    if (why) refuse(name, `${files.length > 1 ? `its file “${basename(file)}” ` : 'it '}${why}.`);
  }
}

/** What is lost of a file that holds more than a picture. */
/** Sound is carried along where every frame lies at its own time. */
async function soundNotes(input: ProbeInput, isCarried: boolean): Promise<string[]> {
  if (input.startNumber !== null || isCarried) return [];
  const found = await ffprobeJson(input, ['-select_streams', 'a', '-show_entries', 'stream=index']);
  const { streams } = z.object({ streams: z.array(z.unknown()) }).parse(found);
  return streams.length > 0
    ? ['Its sound is not carried, for its frames do not lie at their own times: renders are silent.']
    : [];
}

/** A tag by its name; containers differ in case. */
const tagOf = (tags: Record<string, string> | undefined, name: string): string | undefined =>
  Object.entries(tags ?? {}).find(([key]) => key.toLowerCase() === name)?.[1];

/**
 * Decodes all of it once. Broken data, and a picture of another size or other samples than the first, are found now and
 * not in the middle of a render.
 */
async function countByDecoding(input: ProbeInput, codec: string | undefined, signal?: AbortSignal): Promise<number> {
  // a JPEG that breaks off is filled up without a word unless the decoder is asked to be strict
  const isImage = input.startNumber !== null;
  const strict = isImage && codec === 'mjpeg' ? ['-err_detect', 'explode'] : [];
  try {
    const pictures = await listPictures([...strict, ...inputArgs(input)], signal);
    const first = pictures[0] ?? refuse(input.name, 'it holds no frames.');
    const other = pictures.findIndex((p) => p !== first);
    if (other > 0) {
      const which = input.files.length > 1 ? `“${basename(input.files[other] ?? '')}”` : `frame ${other}`;
      refuse(input.name, `its pictures are not alike: ${which} is ${pictures[other]}, the first is ${first}.`);
    }
    return pictures.length;
  } catch (error) {
    if (error instanceof FfmpegFailed) return refuse(input.name, `it cannot be decoded to its end (${error.message}).`);
    throw error;
  }
}
