// Writes and reads TIFF files of floats, which ffmpeg does not. After "TIFF Revision 6.0" (1992), sections 2, 8 and 19,
// and TIFF Technical Note 2 (deflate): one picture, RGB of 32 bits a sample, side by side, strips of lines.
import { promisify } from 'node:util';
import { deflate, inflate } from 'node:zlib';

/** Planes of width × height samples, row by row. */
export interface FloatPicture {
  width: number;
  height: number;
  r: Float32Array;
  g: Float32Array;
  b: Float32Array;
}
type Packing = (bytes: Buffer, done: (e: Error | null, r: Buffer) => void) => void;
const packed = promisify<Buffer, Buffer>(deflate as Packing);
const unpacked = promisify<Buffer, Buffer>(inflate as Packing);

const SHORT = 3;
const LONG = 4;
const SAMPLES = 3;
const BYTES = 4;
const LINES_PER_STRIP = 32;
const HEADER_BYTES = 8;
/** Tags of section 8, and SampleFormat of section 19. */
const TAGS = {
  width: 256,
  height: 257,
  bitsPerSample: 258,
  compression: 259,
  photometric: 262,
  stripOffsets: 273,
  samplesPerPixel: 277,
  rowsPerStrip: 278,
  stripByteCounts: 279,
  planarConfiguration: 284,
  sampleFormat: 339,
} as const;
const [DEFLATE, RGB, CHUNKY, IEEE_FLOAT] = [8, 2, 1, 3];

interface Field {
  tag: number;
  type: typeof SHORT | typeof LONG;
  values: readonly number[];
}

/** The bytes of a file, little-endian. */
export async function tiffFile({ width, height, r, g, b }: FloatPicture): Promise<Buffer> {
  const strips = await Promise.all(
    Array.from({ length: Math.ceil(height / LINES_PER_STRIP) }, (_, s) => {
      const from = s * LINES_PER_STRIP * width;
      const to = Math.min((s + 1) * LINES_PER_STRIP, height) * width;
      const samples = new Float32Array(SAMPLES * (to - from));
      for (let i = from, k = 0; i < to; i++) {
        samples[k++] = r[i]!;
        samples[k++] = g[i]!;
        samples[k++] = b[i]!;
      }
      return packed(Buffer.from(samples.buffer));
    }),
  );
  let at = HEADER_BYTES;
  const offsets = strips.map((strip) => {
    const own = at;
    // what an offset points at begins on a word
    at += strip.length + (strip.length % 2);
    return own;
  });
  const fields: Field[] = [
    { tag: TAGS.width, type: LONG, values: [width] },
    { tag: TAGS.height, type: LONG, values: [height] },
    { tag: TAGS.bitsPerSample, type: SHORT, values: Array<number>(SAMPLES).fill(8 * BYTES) },
    { tag: TAGS.compression, type: SHORT, values: [DEFLATE] },
    { tag: TAGS.photometric, type: SHORT, values: [RGB] },
    { tag: TAGS.stripOffsets, type: LONG, values: offsets },
    { tag: TAGS.samplesPerPixel, type: SHORT, values: [SAMPLES] },
    { tag: TAGS.rowsPerStrip, type: LONG, values: [LINES_PER_STRIP] },
    { tag: TAGS.stripByteCounts, type: LONG, values: strips.map((strip) => strip.length) },
    { tag: TAGS.planarConfiguration, type: SHORT, values: [CHUNKY] },
    { tag: TAGS.sampleFormat, type: SHORT, values: Array<number>(SAMPLES).fill(IEEE_FLOAT) },
  ];
  const header = Buffer.from('II*\0\0\0\0\0', 'latin1');
  header.writeUInt32LE(at, 4);
  const even = strips.flatMap((strip) => (strip.length % 2 ? [strip, Buffer.alloc(1)] : [strip]));
  return Buffer.concat([header, ...even, directory(fields, at)]);
}

/** An image file directory at a place of the file; values that do not fit into their entry come after it. */
function directory(fields: readonly Field[], at: number): Buffer {
  const entries = Buffer.alloc(2 + 12 * fields.length + 4);
  entries.writeUInt16LE(fields.length, 0);
  const behind: Buffer[] = [];
  let free = at + entries.length;
  fields.forEach(({ tag, type, values }, k) => {
    const size = type === SHORT ? 2 : 4;
    const bytes = Buffer.alloc(Math.max(size * values.length, 4));
    values.forEach((v, i) => (type === SHORT ? bytes.writeUInt16LE(v, size * i) : bytes.writeUInt32LE(v, size * i)));
    const entry = 2 + 12 * k;
    entries.writeUInt16LE(tag, entry);
    entries.writeUInt16LE(type, entry + 2);
    entries.writeUInt32LE(values.length, entry + 4);
    if (bytes.length === 4) bytes.copy(entries, entry + 8);
    else {
      entries.writeUInt32LE(free, entry + 8);
      free += bytes.length + (bytes.length % 4);
      behind.push(bytes, Buffer.alloc(bytes.length % 4));
    }
  });
  return Buffer.concat([entries, ...behind]);
}

/** The picture of a file as `tiffFile` writes them. Throws RangeError where it is none. */
export async function floatsOfTiff(bytes: Buffer): Promise<FloatPicture> {
  const fields = fieldsOf(bytes);
  const of = (name: keyof typeof TAGS): readonly number[] => {
    const values = fields.get(TAGS[name]);
    if (!values) throw new RangeError(`the TIFF has no field ${TAGS[name]}`);
    return values;
  };
  const [width, height] = [of('width')[0]!, of('height')[0]!];
  const isOurs =
    of('compression')[0] === DEFLATE &&
    of('planarConfiguration')[0] === CHUNKY &&
    of('bitsPerSample').join() === '32,32,32' &&
    of('sampleFormat').every((format) => format === IEEE_FLOAT);
  if (!isOurs) throw new RangeError('the TIFF is not of three floats a pixel, packed by deflate');
  const counts = of('stripByteCounts');
  const strips = await Promise.all(
    of('stripOffsets').map((from, s) => unpacked(bytes.subarray(from, from + counts[s]!))),
  );
  const samples = Buffer.concat(strips);
  if (samples.length !== width * height * SAMPLES * BYTES)
    throw new RangeError(`the TIFF holds ${samples.length} bytes of ${width} × ${height} pixels`);
  const [r, g, b] = [0, 1, 2].map(() => new Float32Array(width * height)) as [Float32Array, Float32Array, Float32Array];
  const view = new DataView(samples.buffer, samples.byteOffset);
  for (let i = 0; i < width * height; i++) {
    r[i] = view.getFloat32(SAMPLES * BYTES * i, true);
    g[i] = view.getFloat32(SAMPLES * BYTES * i + BYTES, true);
    b[i] = view.getFloat32(SAMPLES * BYTES * i + 2 * BYTES, true);
  }
  return { width, height, r, g, b };
}

function fieldsOf(bytes: Buffer): Map<number, readonly number[]> {
  if (bytes.toString('latin1', 0, 4) !== 'II*\0') throw new RangeError('no little-endian TIFF');
  const at = bytes.readUInt32LE(4);
  const fields = new Map<number, readonly number[]>();
  for (let k = 0; k < bytes.readUInt16LE(at); k++) {
    const entry = at + 2 + 12 * k;
    const size = bytes.readUInt16LE(entry + 2) === SHORT ? 2 : 4;
    const count = bytes.readUInt32LE(entry + 4);
    const from = size * count <= 4 ? entry + 8 : bytes.readUInt32LE(entry + 8);
    const value = (i: number) => (size === 2 ? bytes.readUInt16LE(from + 2 * i) : bytes.readUInt32LE(from + 4 * i));
    fields.set(
      bytes.readUInt16LE(entry),
      Array.from({ length: count }, (_, i) => value(i)),
    );
  }
  return fields;
}
