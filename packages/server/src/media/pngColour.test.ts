// Chunks as the PNG specification's tables have them, and what another program reads of them.
import { execFileSync } from 'node:child_process';
import fc from 'fast-check';
import { expect, it } from 'vitest';
import { ENCODING_NAMES, type Encoding } from '@mellow/core';
import { encodingOfPng, pngInEncoding } from './pngColour.ts';

const plain = execFileSync('ffmpeg', [
  ...'-v error -f lavfi -i testsrc2=size=16x16 -frames:v 1 -color_primaries bt2020 -color_trc smpte2084'.split(' '),
  ...'-f image2 -c:v png -pix_fmt rgb48be -'.split(' '),
]);
function chunksOf(png: Buffer): [type: string, data: number[]][] {
  const chunks: [string, number[]][] = [];
  for (let at = 8; at < png.length; at += 12 + png.readUInt32BE(at)) {
    const length = png.readUInt32BE(at);
    chunks.push([png.toString('latin1', at + 4, at + 8), [...png.subarray(at + 8, at + 8 + length)]]);
  }
  return chunks;
}
const said = (encoding: Encoding) => Object.fromEntries(chunksOf(pngInEncoding(plain, encoding)));
const number = (bytes: number[]) => Buffer.from(bytes).readUInt32BE(0);

it.each([
  ['srgb', [1, 13, 0, 1], 45_455],
  ['rec709', [1, 1, 0, 1], 41_667],
  ['display-p3', [12, 13, 0, 1], 45_455],
  ['rec2020', [9, 14, 0, 1], 41_667],
  ['rec2100-pq', [9, 16, 0, 1], undefined],
  ['rec2100-hlg', [9, 18, 0, 1], undefined],
  ['linear709', [1, 8, 0, 1], 100_000],
] as const)('%s is said by its code points %j', (encoding, cicp, gamma) => {
  const { cICP, gAMA, sRGB } = said(encoding);
  expect(cICP).toEqual(cicp);
  expect(gAMA && number(gAMA)).toBe(gamma);
  expect(sRGB).toEqual(encoding === 'srgb' ? [0] : undefined);
  expect(encodingOfPng(pngInEncoding(plain, encoding).subarray(0, 200))).toBe(encoding);
});
it('of any bytes is said, or not, and never anything else', () =>
  fc.assert(
    fc.property(fc.uint8Array({ maxLength: 300 }), (tail) => {
      const found = encodingOfPng(Buffer.concat([plain.subarray(0, 33), Buffer.from(tail)]));
      expect(found === undefined || ENCODING_NAMES.includes(found)).toBe(true);
    }),
    { numRuns: 1000 },
  ));
it('chromaticities are those of the table of the sRGB chunk', () =>
  expect(Array.from({ length: 8 }, (_, i) => number(said('srgb').cHRM!.slice(4 * i)))).toEqual([
    31_270, 32_900, 64_000, 33_000, 30_000, 60_000, 15_000, 6_000,
  ]));
it('an encoding that has no code points is not said, and nothing else is', () => {
  const { cICP, gAMA, cHRM, sRGB } = said('logc3');
  expect([cICP, gAMA, cHRM, sRGB]).toEqual([undefined, undefined, undefined, undefined]);
  for (const png of [pngInEncoding(plain, 'logc3'), plain, plain.subarray(0, 20), Buffer.alloc(0)])
    expect(encodingOfPng(png)).toBeUndefined();
});
it('they come before the picture, of which no byte is another, and every chunk is whole', () => {
  const png = pngInEncoding(plain, 'rec709');
  const chunks = chunksOf(png);
  const types = chunks.map(([type]) => type);
  expect(types[0]).toBe('IHDR');
  expect(types.at(-1)).toBe('IEND');
  expect(types.indexOf('cICP')).toBeLessThan(types.indexOf('IDAT'));
  const picture = (all: typeof chunks) => all.filter(([type]) => type === 'IDAT').map(([, data]) => data);
  expect(picture(chunks)).toEqual(picture(chunksOf(plain)));
  // the decoder checks the sums of all chunks
  const args = '-v error -err_detect crccheck+explode -f image2pipe -c:v png -i - -f framemd5 -';
  const hash = (input: Buffer) => execFileSync('ffmpeg', args.split(' '), { input, encoding: 'utf8' });
  expect(hash(png)).toBe(hash(plain));
});
