// Writes OpenEXR files of any channels, which ffmpeg does not. After "OpenEXR File Layout" (Academy Software
// Foundation, OpenEXR 3 documentation): single part, scan lines, half or whole floats, ZIP compression of 16 lines.
import { promisify } from 'node:util';
import { deflate } from 'node:zlib';
import { halfFromFloat } from '@mellow/core';

const MAGIC = 0x01312f76;
const VERSION = 2;
/** How a channel is stored: the number in the header, bytes a sample, and how one is written. */
const STORED = {
  half: { number: 1, bytes: 2, put: (to: Buffer, v: number, at: number) => to.writeUInt16LE(halfFromFloat(v), at) },
  float: { number: 2, bytes: 4, put: (to: Buffer, v: number, at: number) => to.writeFloatLE(v, at) },
} as const;
type ExrSamples = keyof typeof STORED;
const ZIP = 3;
const LINES_PER_CHUNK = 16;
const INCREASING_Y = 0;
/** Version bit: names of more than 31 letters. */
const LONG_NAMES = 0x400;

export interface ExrPicture {
  width: number;
  height: number;
  /** Left out: half. */
  samples?: ExrSamples;
  /** A pixel's width to its height; left out: 1. */
  pixelAspect?: number;
  /** Planes of width × height samples, row by row; names are all different and not empty. */
  channels: readonly { name: string; plane: Float32Array }[];
}
const compressed = promisify<Buffer, Buffer>(
  deflate as (bytes: Buffer, done: (e: Error | null, r: Buffer) => void) => void,
);

/** The bytes of a file. Channels stand in the order of their names, as the format wants. */
export async function exrFile({ samples = 'half', pixelAspect = 1, ...picture }: ExrPicture): Promise<Buffer> {
  const { width, height, channels } = picture;
  const sorted = channels.toSorted((a, b) => (a.name < b.name ? -1 : 1));
  const names = sorted.map((c) => c.name);
  const header = headerOf({ width, height, samples, pixelAspect }, names);
  const starts = Array.from({ length: Math.ceil(height / LINES_PER_CHUNK) }, (_, k) => k * LINES_PER_CHUNK);
  const chunks = await Promise.all(
    starts.map(async (y) => {
      const raw = linesOf(sorted, samples, width, y, Math.min(y + LINES_PER_CHUNK, height));
      const packed = await compressed(predicted(raw));
      // what does not get smaller is stored as it is
      const data = packed.length < raw.length ? packed : raw;
      return Buffer.concat([int32(y), int32(data.length), data]);
    }),
  );
  const table = Buffer.alloc(8 * chunks.length);
  let at = header.length + table.length;
  chunks.forEach((chunk, k) => {
    table.writeBigUInt64LE(BigInt(at), 8 * k);
    at += chunk.length;
  });
  return Buffer.concat([header, table, ...chunks]);
}

function int32(...values: number[]): Buffer {
  const bytes = Buffer.alloc(4 * values.length);
  values.forEach((v, i) => bytes.writeInt32LE(v, 4 * i));
  return bytes;
}
function float32(...values: number[]): Buffer {
  const bytes = Buffer.alloc(4 * values.length);
  values.forEach((v, i) => bytes.writeFloatLE(v, 4 * i));
  return bytes;
}
const text = (word: string): Buffer => Buffer.from(`${word}\0`, 'latin1');
const attribute = (name: string, type: string, value: Buffer): Buffer =>
  Buffer.concat([text(name), text(type), int32(value.length), value]);

type Shape = Required<Omit<ExrPicture, 'channels'>>;
function headerOf({ width, height, samples, pixelAspect }: Shape, names: readonly string[]): Buffer {
  const window = int32(0, 0, width - 1, height - 1);
  const channel = (name: string) =>
    Buffer.concat([text(name), int32(STORED[samples].number), Buffer.from([1, 0, 0, 0]), int32(1, 1)]);
  const flags = names.some((name) => name.length > 31) ? LONG_NAMES : 0;
  return Buffer.concat([
    int32(MAGIC, VERSION | flags),
    attribute('channels', 'chlist', Buffer.concat([...names.map(channel), Buffer.from([0])])),
    attribute('compression', 'compression', Buffer.from([ZIP])),
    attribute('dataWindow', 'box2i', window),
    attribute('displayWindow', 'box2i', window),
    attribute('lineOrder', 'lineOrder', Buffer.from([INCREASING_Y])),
    attribute('pixelAspectRatio', 'float', float32(pixelAspect)),
    attribute('screenWindowCenter', 'v2f', float32(0, 0)),
    attribute('screenWindowWidth', 'float', float32(1)),
    Buffer.from([0]),
  ]);
}

/** Lines as the format stores them: line by line, in each all samples of one channel, then of the next. */
function linesOf(channels: ExrPicture['channels'], samples: ExrSamples, width: number, from: number, to: number) {
  const { bytes, put } = STORED[samples];
  const out = Buffer.alloc((to - from) * channels.length * width * bytes);
  let at = 0;
  for (let y = from; y < to; y++)
    for (const { plane } of channels) for (let x = 0; x < width; x++) at = put(out, plane[y * width + x]!, at);
  return out;
}

/** The format's preparation for deflate: even bytes before odd ones, then differences, moved by 128. */
function predicted(raw: Buffer): Buffer {
  const half = Math.ceil(raw.length / 2);
  const parted = Buffer.alloc(raw.length);
  for (let i = 0; i < raw.length; i++) parted[(i & 1 ? half : 0) + (i >> 1)] = raw[i]!;
  const out = Buffer.from(parted);
  for (let i = 1; i < raw.length; i++) out[i] = parted[i]! - parted[i - 1]! + 128;
  return out;
}
