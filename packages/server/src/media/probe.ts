import { z } from 'zod';
import type { Encoding, Media } from '@mellow/contract';
import { Refused } from '../api/problem.ts';
import { knowsMatrix } from './conversion.ts';
import { FfmpegFailed, ffprobeJson, inputArgs, runFfmpeg } from './ffmpeg.ts';

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

export interface ProbeInput {
  path: string;
  /** First number of an image sequence; null for a video file. */
  startNumber: number | null;
  /** Rate of an image sequence. */
  fps?: { num: number; den: number };
  /** How the user knows it, for messages. */
  name: string;
}
type Described = Omit<Media, 'id' | 'sha256' | 'name' | 'kind'>;
/** Containers that list where their key frames lie: seeking in them is exact. */
const INDEXED = /\b(?:mov|mp4|matroska)\b/;

const refuse = (name: string, why: string): never => {
  throw new Refused('refused-media', `“${name}” was not imported: ${why}`, [{ path: name, message: why }]);
};

/** What a file is, in full, or a refusal that names the property. Decodes every frame once, so that a broken one is found now. */
export async function probeMedia(
  input: ProbeInput,
  signal?: AbortSignal,
): Promise<{ described: Described; firstFrameSeconds: number | null }> {
  const { streams, format, packets } = await ffprobeJson(input, [
    '-select_streams',
    'v:0',
    '-show_streams',
    '-show_format',
    '-show_entries',
    'packet=pts',
  ]).then(
    (json) => Probe.parse(json),
    (error: unknown) =>
      refuse(
        input.name,
        `it cannot be read as video or image (${error instanceof Error ? error.message : 'unknown format'}).`,
      ),
  );
  const stream = streams[0] ?? refuse(input.name, 'it holds no picture.');
  const { width = 0, height = 0, pix_fmt: pixelFormat = '' } = stream;
  if (!width || !height || !pixelFormat) refuse(input.name, 'it holds no picture that can be decoded.');
  if (width > MAX_WIDTH || height > MAX_HEIGHT)
    refuse(input.name, `its size ${width} × ${height} is over ${MAX_WIDTH} × ${MAX_HEIGHT}.`);
  if (stream.field_order && !['progressive', 'unknown'].includes(stream.field_order))
    refuse(input.name, `it is interlaced (${stream.field_order}); deinterlace it first.`);
  const rotation = stream.side_data_list?.find((d) => d.rotation)?.rotation ?? Number(stream.tags?.rotate ?? 0);
  if (rotation)
    refuse(input.name, `it is marked to be shown rotated by ${Math.abs(rotation)}°; write it upright first.`);
  if (stream.sample_aspect_ratio && !['1:1', '0:1', 'N/A'].includes(stream.sample_aspect_ratio))
    refuse(input.name, `its pixels are not square (${stream.sample_aspect_ratio}).`);
  const rate = input.startNumber !== null ? (input.fps ?? { num: 24, den: 1 }) : rateOf(stream.r_frame_rate);
  if (!rate) refuse(input.name, 'it names no frame rate.');
  const times = (packets ?? [])
    .map((p) => p.pts)
    .filter((p) => p !== undefined)
    .sort((a, b) => a - b);
  if (input.startNumber === null) assertConstantRate(input.name, times, stream.time_base, rate!);
  const colour = colourOf(input.name, stream, pixelFormat, width, height);
  const frames = await countByDecoding(input, signal);
  const timecode = tagOf(stream.tags, 'timecode') ?? tagOf(format?.tags, 'timecode') ?? null;
  // a frame that is in the file but not shown (an edit list) would shift all that come after it
  const canSeek = input.startNumber === null && INDEXED.test(format?.format_name ?? '') && times.length === frames;
  const firstFrameSeconds = canSeek ? times[0]! * secondsOf(stream.time_base) - Number(format?.start_time ?? 0) : null;
  return {
    described: {
      width,
      height,
      fps: rate!,
      frames,
      codec: stream.codec_name ?? 'unknown',
      pixelFormat,
      timecode,
      ...colour,
    },
    firstFrameSeconds: Number.isFinite(firstFrameSeconds) ? firstFrameSeconds : null,
  };
}

/** A tag by its name; containers differ in case. */
const tagOf = (tags: Record<string, string> | undefined, name: string): string | undefined =>
  Object.entries(tags ?? {}).find(([key]) => key.toLowerCase() === name)?.[1];

function rateOf(text: string | undefined): { num: number; den: number } | undefined {
  const [num, den] = (text ?? '').split('/').map(Number);
  return num && den ? { num, den } : undefined;
}

/** Seconds of one tick of a time base "1/90000"; NaN where there is none. */
function secondsOf(timeBase: string | undefined): number {
  const [num = NaN, den = NaN] = (timeBase ?? '').split('/').map(Number);
  return num / den;
}

/** Every gap between frames must be one frame, to the rounding of the container's clock (a tick either way). */
function assertConstantRate(
  name: string,
  sorted: readonly number[],
  timeBase: string | undefined,
  rate: { num: number; den: number },
): void {
  const tick = secondsOf(timeBase);
  if (sorted.length < 3 || !(tick > 0)) return;
  const ticks = rate.den / rate.num / tick;
  for (let i = 1; i < sorted.length; i++) {
    const gap = sorted[i]! - sorted[i - 1]!;
    if (Math.abs(gap - ticks) > Math.max(1.01, ticks * 0.02))
      refuse(
        name,
        `its frame rate varies (frame ${i} comes after ${(gap * tick * 1000).toFixed(2)} ms instead of ${(ticks * tick * 1000).toFixed(2)} ms); convert it to a constant rate first.`,
      );
  }
}

function bitDepthOf(pixelFormat: string, raw: string | undefined): number {
  const named = /(?:p|gray|gbrp|rgb|rgba|bgr|bgra|ya|x2rgb)(9|10|12|14|16|48|64)(?:le|be)?$/.exec(pixelFormat)?.[1];
  if (/f32|f16/.test(pixelFormat)) return pixelFormat.includes('f16') ? 16 : 32;
  if (named) return { 48: 16, 64: 16 }[Number(named)] ?? Number(named);
  return Number(raw) || 8;
}

function colourOf(
  name: string,
  stream: z.infer<typeof Stream>,
  pixelFormat: string,
  width: number,
  height: number,
): Pick<Described, 'bitDepth' | 'range' | 'matrix' | 'primaries' | 'transfer' | 'proposedEncoding' | 'notes'> {
  const notes: string[] = [];
  const known = (value: string | undefined) =>
    value && !['unknown', 'unspecified', 'reserved'].includes(value) ? value : undefined;
  const rgb = /^(gbr|rgb|bgr|argb|abgr|0rgb|0bgr|pal8|gray|ya|mono|x2rgb)/.test(pixelFormat);
  const float = /f32|f16/.test(pixelFormat);
  const hd = width >= 1280 || height >= 720;
  let matrix = rgb ? 'gbr' : known(stream.color_space);
  if (!matrix) {
    matrix = hd ? 'bt709' : 'smpte170m';
    notes.push(`The YCbCr matrix is not stated; ${hd ? 'BT.709' : 'BT.601'} was assumed from the size.`);
  }
  if (!knowsMatrix(matrix)) refuse(name, `its YCbCr matrix (${matrix}) is not supported.`);
  const primaries = known(stream.color_primaries) ?? 'bt709';
  if (['bt2020', 'smpte432', 'smpte431', 'smpte428', 'film', 'ebu3213'].includes(primaries))
    refuse(name, `its primaries (${primaries}) are not supported yet; BT.709 primaries are.`);
  if (primaries !== 'bt709') notes.push(`The primaries ${primaries} are read as BT.709.`);
  const transfer = known(stream.color_transfer) ?? 'unspecified';
  if (['smpte2084', 'arib-std-b67', 'log100', 'log316', 'smpte428'].includes(transfer))
    refuse(name, `its transfer function (${transfer}) is not supported yet.`);
  let range = known(stream.color_range);
  if (!range) range = rgb || pixelFormat.startsWith('yuvj') ? 'pc' : 'tv';
  if (!rgb && !known(stream.color_range) && !pixelFormat.startsWith('yuvj'))
    notes.push('The range is not stated; limited was assumed.');
  if (
    /a(?:\d|f|$|p)|rgba|bgra|argb|abgr|^ya|gbrap/.test(pixelFormat.replace(/^gray/, '')) &&
    !/^pal8$/.test(pixelFormat)
  )
    notes.push('The alpha channel is used by plate mattes only and not written to renders.');
  const image = ['png', 'mjpeg', 'tiff', 'jpegls', 'bmp', 'webp'].includes(stream.codec_name ?? '');
  const bitDepth = bitDepthOf(pixelFormat, stream.bits_per_raw_sample);
  // many 8 and 10 bit files are tagged linear that cannot be: that few bits do not hold linear light
  const proposedEncoding: Encoding =
    float || (transfer === 'linear' && bitDepth >= 16)
      ? 'linear709'
      : image || transfer === 'iec61966-2-1'
        ? 'srgb'
        : 'rec709';
  return { bitDepth, range: range === 'pc' ? 'full' : 'limited', matrix, primaries, transfer, proposedEncoding, notes };
}

async function countByDecoding(input: ProbeInput, signal?: AbortSignal): Promise<number> {
  try {
    const frames = await runFfmpeg(
      ['-xerror', ...inputArgs(input), '-map', '0:v:0', '-fps_mode', 'passthrough', '-f', 'null', '-'],
      signal ? { signal } : {},
    );
    return frames > 0 ? frames : refuse(input.name, 'it holds no frames.');
  } catch (error) {
    if (error instanceof FfmpegFailed) return refuse(input.name, `it cannot be decoded to its end (${error.message}).`);
    throw error;
  }
}
