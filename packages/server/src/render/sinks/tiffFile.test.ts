// TIFF files of floats: read by another library, and by our own reader, which refuses what it does not write.
import { decode } from 'tiff';
import { describe, expect, it } from 'vitest';
import { floatsOfTiff, tiffFile } from './tiffFile.ts';

/** Numbers below 0 and past 1 too, each another one. */
function picture(width: number, height: number) {
  const plane = (from: number) => Float32Array.from({ length: width * height }, (_, i) => from + i / 7);
  return { width, height, r: plane(-0.5), g: plane(-1e-6), b: plane(1e4) };
}

describe('a TIFF of floats', () => {
  // a strip that is full, one that is not, an odd number of bytes, one pixel
  it.each([
    [5, 32],
    [7, 71],
    [1, 1],
  ])('of %d × %d holds what was given, as another library reads it and as ours does', async (width, height) => {
    const given = picture(width, height);
    const bytes = await tiffFile(given);
    const [theirs, ...others] = decode(bytes);
    expect(others).toEqual([]);
    expect([theirs!.width, theirs!.height, theirs!.bitsPerSample, theirs!.samplesPerPixel]).toEqual([
      width,
      height,
      32,
      3,
    ]);
    expect(Array.from(theirs!.data)).toEqual(
      Array.from(
        { length: 3 * width * height },
        (_, k) => given[(['r', 'g', 'b'] as const)[k % 3]!][Math.floor(k / 3)],
      ),
    );
    expect(await floatsOfTiff(bytes)).toEqual(given);
  });
  it.each([
    ['another file', (b: Buffer) => void b.write('MM'), /no little-endian TIFF/],
    ['a broken strip', (b: Buffer) => void b.fill(0xff, 9, 20), /incorrect|invalid/i],
    ['other samples', (b: Buffer) => replaceShort(b, 258, 16), /not of three floats/],
  ])('that is %s is refused', async (_what, spoil, says) => {
    const bytes = await tiffFile(picture(6, 4));
    spoil(bytes);
    await expect(floatsOfTiff(bytes)).rejects.toThrow(says);
  });
});

/** Writes another number into the first value of a field that lies behind its directory. */
function replaceShort(bytes: Buffer, tag: number, value: number): void {
  const at = bytes.readUInt32LE(4);
  for (let k = 0; k < bytes.readUInt16LE(at); k++) {
    const entry = at + 2 + 12 * k;
    if (bytes.readUInt16LE(entry) === tag) bytes.writeUInt16LE(value, bytes.readUInt32LE(entry + 8));
  }
}
