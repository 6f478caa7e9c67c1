// The planes of an OpenEXR file by the names of its channels, which ffmpeg gives only where they are called R, G, B, A
// or Y. After "OpenEXR File Layout" (Academy Software Foundation, OpenEXR 3 documentation): single part, scan lines,
// not packed or by ZIP.
import { inflateSync } from 'node:zlib';
import { floatFromHalf } from '@mellow/core';
import { headerOf, MAGIC } from './exr.ts';

interface ExrChannel {
  name: string;
  /** width × height samples of the display window, row by row; 0 where nothing is stored. */
  plane: Float32Array;
}
export interface ExrPlanes {
  width: number;
  height: number;
  channels: ExrChannel[];
}

interface Stored {
  name: string;
  type: keyof typeof TYPES;
}
/** Sample types by their numbers: bytes, and how one is read. */
const TYPES = {
  0: { bytes: 4, at: (b: Buffer, i: number) => b.readUInt32LE(i) },
  1: { bytes: 2, at: (b: Buffer, i: number) => floatFromHalf(b.readUInt16LE(i)) },
  2: { bytes: 4, at: (b: Buffer, i: number) => b.readFloatLE(i) },
} as const;
/** Lines of a block, by the numbers of the ways to pack that are read: none, ZIP of a line, ZIP of sixteen. */
const LINES: Readonly<Record<number, number>> = { 0: 1, 2: 1, 3: 16 };
/** Of all channels; and how much smaller deflate makes bytes at best. */
const MOST_SAMPLES = 2 ** 28;
const MOST_PACKED = 1032;

/** Names of the channels; empty where the bytes are no OpenEXR. */
export function exrChannelNames(bytes: Buffer): string[] {
  try {
    return bytes.readUInt32LE(0) === MAGIC ? channelsOf(headerOf(bytes).attributes).map((c) => c.name) : [];
  } catch {
    return [];
  }
}

/** Throws RangeError, in words to be said after the file's name, where it is packed otherwise or breaks off. */
export function exrPlanes(bytes: Buffer): ExrPlanes {
  const { attributes, end } = headerOf(bytes);
  const [x0, y0, x1, y1] = windowOf(attributes, 'dataWindow');
  const [left, top, right, bottom] = windowOf(attributes, 'displayWindow');
  const [width, height] = [right - left + 1, bottom - top + 1];
  const wide = x1 - x0 + 1;
  const stored = channelsOf(attributes);
  if (!(width > 0 && height > 0 && wide > 0) || width * height * stored.length > MOST_SAMPLES)
    throw new RangeError(`is of ${width} × ${height} pixels, which no picture is`);
  const packing = attributes.get('compression')?.[0] ?? 0;
  const lines = LINES[packing];
  if (lines === undefined || bytes.readUInt32LE(4) & 0x1a00)
    throw new RangeError('has channels that are read only of scan lines, not packed or packed by ZIP');
  const lineBytes = stored.reduce((sum, c) => sum + TYPES[c.type].bytes * wide, 0);
  if ((y1 - y0 + 1) * lineBytes > MOST_PACKED * bytes.length) throw new RangeError('breaks off');
  const channels = stored.map(({ name }) => ({ name, plane: new Float32Array(width * height) }));
  for (let block = 0; y0 + block * lines <= y1; block++) {
    const at = Number(bytes.readBigUInt64LE(end + 8 * block));
    const [y, length] = [bytes.readInt32LE(at), bytes.readInt32LE(at + 4)];
    if (length < 0 || at + 8 + length > bytes.length) throw new RangeError('breaks off');
    const rows = Math.min(lines, y1 - y + 1);
    const data = unpacked(bytes.subarray(at + 8, at + 8 + length), rows * lineBytes);
    let from = 0;
    for (let row = y; row < y + rows; row++)
      stored.forEach(({ type }, c) => {
        const { bytes: size, at: read } = TYPES[type];
        const plane = channels[c]!.plane;
        for (let x = 0; x < wide; x++, from += size) {
          const [u, v] = [x + x0 - left, row - top];
          if (u >= 0 && u < width && v >= 0 && v < height) plane[v * width + u] = read(data, from);
        }
      });
  }
  return { width, height, channels };
}

function windowOf(attributes: Map<string, Buffer>, name: string): [number, number, number, number] {
  const box = attributes.get(name);
  if (box?.length !== 16) throw new RangeError('names no window');
  return [box.readInt32LE(0), box.readInt32LE(4), box.readInt32LE(8), box.readInt32LE(12)];
}
function channelsOf(attributes: Map<string, Buffer>): Stored[] {
  const list = attributes.get('channels');
  if (!list) throw new RangeError('names no channels');
  const stored: Stored[] = [];
  for (let at = 0; list[at] !== 0; at += 16) {
    const end = list.indexOf(0, at);
    if (end < 0) throw new RangeError('breaks off in its channels');
    const name = list.toString('utf8', at, end);
    at = end + 1;
    const type = list.readInt32LE(at);
    if (type !== 0 && type !== 1 && type !== 2) throw new RangeError('has samples of no known type');
    if (list.readInt32LE(at + 8) !== 1 || list.readInt32LE(at + 12) !== 1)
      throw new RangeError('has channels of fewer samples than pixels');
    stored.push({ name, type });
  }
  return stored;
}

/** Bytes as they were before they were packed: what got no smaller is stored as it is. */
function unpacked(data: Buffer, length: number): Buffer {
  if (data.length === length) return data;
  let raw: Buffer;
  try {
    raw = inflateSync(data, { maxOutputLength: Math.max(length, 1) });
  } catch {
    throw new RangeError('holds a block that cannot be unpacked');
  }
  if (raw.length !== length) throw new RangeError('holds a block that is not whole');
  for (let i = 1; i < length; i++) raw[i] = raw[i]! + raw[i - 1]! - 128;
  const half = Math.ceil(length / 2);
  const out = Buffer.alloc(length);
  for (let i = 0; i < length; i++) out[i] = raw[(i & 1 ? half : 0) + (i >> 1)]!;
  return out;
}
