// Is an OpenEXR file whole, and of what primaries is it? After “OpenEXR File Layout” (Academy Software Foundation,
// OpenEXR 3 documentation): magic, version, header attributes, then a table of offsets to the chunks, each of which
// says how many bytes it has.
import { open, type FileHandle } from 'node:fs/promises';

export const MAGIC = 0x01312f76;
const IS_TILED = 0x200;
const IS_DEEP = 0x800;
const IS_MULTI_PART = 0x1000;
/** Scan lines in a chunk, by the number of the compression in the header (“Scan line blocks”, same document). */
const LINES_PER_CHUNK = [1, 1, 1, 16, 32, 16, 32, 32, 32, 256];
/** Headers are a few hundred bytes; one with a preview picture may be larger. */
const USUAL_HEADER_BYTES = 1 << 16;

/** What is wrong with the file, to be said after “it”; undefined when all its chunks are there. */
export async function exrFault(path: string): Promise<string | undefined> {
  const file = await open(path, 'r');
  try {
    const { size } = await file.stat();
    return await faultOf(file, size);
  } catch (error) {
    if (error instanceof RangeError) return 'breaks off in its header';
    throw error;
  } finally {
    await file.close();
  }
}

/**
 * x and y of red, green, blue and white, as the header states them; undefined where it does not. Throws RangeError
 * where the file breaks off in its header.
 */
export async function exrChromaticities(path: string): Promise<number[] | undefined> {
  const file = await open(path, 'r');
  try {
    const { attributes } = headerOf(await headOf(file));
    const value = attributes.get('chromaticities');
    return value?.length === 32 ? Array.from({ length: 8 }, (_, k) => value.readFloatLE(4 * k)) : undefined;
  } finally {
    await file.close();
  }
}

/** A file's first bytes, all of its header among them. */
async function headOf(file: FileHandle): Promise<Buffer> {
  const { size } = await file.stat();
  const head = await read(file, 0, Math.min(size, USUAL_HEADER_BYTES));
  return endsWithin(head) ? head : read(file, 0, size);
}

async function faultOf(file: FileHandle, size: number): Promise<string | undefined> {
  const head = await headOf(file);
  if (head.readUInt32LE(0) !== MAGIC) return 'is no OpenEXR file';
  const version = head.readUInt32LE(4);
  if (version & IS_MULTI_PART) return 'has several parts; write the picture as a file of its own';
  if (version & IS_DEEP) return 'holds deep samples; flatten it first';
  const { attributes, end } = headerOf(head);
  const chunks = chunkCount(attributes, (version & IS_TILED) !== 0);
  if (chunks === undefined) return undefined;
  const table = await read(file, end, chunks * 8);
  // scan lines: y and size before the data; tiles: column, row, two levels and size
  const sizeAt = version & IS_TILED ? 16 : 4;
  for (let k = 0; k < chunks; k++) {
    const offset = Number(table.readBigUInt64LE(8 * k));
    if (offset === 0 || offset + sizeAt + 4 > size) return missing(k, chunks);
    const bytes = (await read(file, offset + sizeAt, 4)).readUInt32LE(0);
    if (offset + sizeAt + 4 + bytes > size) return missing(k, chunks);
  }
  return undefined;
}

const missing = (chunk: number, of: number): string =>
  `breaks off: of its ${of} blocks of lines, block ${chunk + 1} is not all there`;

/** Throws RangeError where the file ends before. */
async function read(file: FileHandle, at: number, length: number): Promise<Buffer> {
  const buffer = Buffer.alloc(length);
  const { bytesRead } = await file.read(buffer, 0, length, at);
  if (bytesRead < length) throw new RangeError('the file ends here');
  return buffer;
}

function endsWithin(head: Buffer): boolean {
  try {
    return headerOf(head).end > 0;
  } catch {
    return false;
  }
}

/** The header's attributes by name, and where it ends. Throws RangeError where it breaks off. */
export function headerOf(head: Buffer): { attributes: Map<string, Buffer>; end: number } {
  const attributes = new Map<string, Buffer>();
  let at = 8;
  const text = (): string => {
    const end = head.indexOf(0, at);
    if (end < 0) throw new RangeError('the header does not end');
    const word = head.toString('latin1', at, end);
    at = end + 1;
    return word;
  };
  for (let name = text(); name !== ''; name = text()) {
    text(); // its type
    const bytes = head.readInt32LE(at);
    if (bytes < 0 || at + 4 + bytes > head.length) throw new RangeError('an attribute does not end');
    attributes.set(name, head.subarray(at + 4, at + 4 + bytes));
    at += 4 + bytes;
  }
  return { attributes, end: at };
}

/** How many chunks there must be; undefined for tiles of several levels, which are not counted here. */
function chunkCount(attributes: Map<string, Buffer>, isTiled: boolean): number | undefined {
  const window = attributes.get('dataWindow');
  const compression = attributes.get('compression')?.[0];
  if (!window || compression === undefined) throw new RangeError('the header names no data window');
  const [x0, y0, x1, y1] = [0, 4, 8, 12].map((o) => window.readInt32LE(o)) as [number, number, number, number];
  const [width, height] = [x1 - x0 + 1, y1 - y0 + 1];
  if (!isTiled) return Math.ceil(height / (LINES_PER_CHUNK[compression] ?? 1));
  const tiles = attributes.get('tiles');
  if (!tiles || (tiles[8]! & 0xf) !== 0) return undefined;
  return Math.ceil(width / tiles.readUInt32LE(0)) * Math.ceil(height / tiles.readUInt32LE(4));
}
