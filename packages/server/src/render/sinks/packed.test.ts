// What frames are packed to, against what ffmpeg and other readers make of it.
import { execFileSync } from 'node:child_process';
import { expect, it } from 'vitest';
import { decode } from 'tiff';
import { words } from '../../media/words.ts';
import { PIXELS, type Samples } from '../presets/output.ts';
import { anyOf, hashOfTiff, packMattes, packPicture, type PackedFrame } from './packed.ts';

const [width, height] = [5, 3];
const n = width * height;
const codes = (from: number) => Uint16Array.from({ length: n }, (_, i) => (from + i) * 1234);
const integers = { width, height, r: codes(0), g: codes(10), b: codes(38) };
const plane = (from: number) => Float32Array.from({ length: n }, (_, i) => from + i / 7);
const light = { width, height, r: plane(-0.5), g: plane(0.25), b: plane(3) };

/** MD5 of a frame of raw samples as ffmpeg gives it. */
function hashByFfmpeg({ parts }: PackedFrame, pixels: string): string {
  const raw = `-v error -f rawvideo -pix_fmt ${pixels} -video_size ${width}x${height} -i - -f framehash -hash md5 -`;
  const said = execFileSync('ffmpeg', words(raw), { input: Buffer.concat(parts), encoding: 'utf8' });
  return said.trim().split(/,\s*/).at(-1)!;
}
/** Can all of it be moved to another thread, and is it the same there? */
function isMovable(packed: PackedFrame): boolean {
  const before = packed.parts.map((part) => Buffer.from(part));
  const transfer = [...new Set(packed.parts.map((part) => part.buffer as ArrayBuffer))];
  const there = structuredClone(packed, { transfer });
  return there.parts.every((part, k) => before[k]!.equals(part)) && packed.parts.every((part) => part.length === 0);
}

it.each([
  ['16 bit', integers],
  ['12 bit', integers],
  ['10 bit', integers],
  ['float', light],
  ['half', light],
] as const)('planes of %s are hashed as ffmpeg hashes them, and can be moved', async (samples: Samples, picture) => {
  const packed = await packPicture(picture, { as: 'planes', samples, isHashed: true });
  expect(packed.hashes).toEqual([hashByFfmpeg(packed, PIXELS[samples])]);
  const own = structuredClone(packed);
  expect(isMovable(own)).toBe(true);
  expect((await packPicture(picture, { as: 'planes', samples, isHashed: false })).hashes).toEqual(['']);
});
it('codes of 10 and 12 bits are the nearest, and α stands last', async () => {
  const alpha = plane(0).map((v) => v / 3);
  const { parts } = await packPicture(
    { ...integers, alpha },
    { as: 'planes', samples: '16 bit, alpha', isHashed: false },
  );
  const as16 = (bytes: Uint8Array) => [...new Uint16Array(bytes.slice().buffer)];
  expect(parts.map(as16).slice(0, 3)).toEqual([integers.g, integers.b, integers.r].map((p) => [...p]));
  expect(as16(parts[3]!)).toEqual([...alpha].map((v) => Math.round(v * 65535)));
  const ten = await packPicture(integers, { as: 'planes', samples: '10 bit', isHashed: false });
  expect(as16(ten.parts[2]!)).toEqual([...integers.r].map((v) => Math.round((v * 1023) / 65535)));
});
it('floats are refused of codes', async () => {
  await expect(packPicture(integers, { as: 'tiff' })).rejects.toThrow('float samples were asked for');
});
it('a TIFF of floats is read by another library, is known again by its hash, and can be moved', async () => {
  const packed = await packPicture(light, { as: 'tiff' });
  const [file] = packed.parts;
  expect(Array.from(decode(file!)[0]!.data).slice(0, 3)).toEqual([light.r[0], light.g[0], light.b[0]]);
  expect(packed.hashes).toEqual([await hashOfTiff(Buffer.from(file!))]);
  const other = await packPicture({ ...light, r: light.g }, { as: 'tiff' });
  expect(other.hashes).not.toEqual(packed.hashes);
  expect(isMovable(packed)).toBe(true);
});
it('mattes stand one after the other, behind them what any of them selects; an OpenEXR can be moved', async () => {
  const mattes = [plane(0).map((v) => v / 2), plane(-1).map((v) => Math.max(v, 0))];
  const grey = await packMattes(mattes, { width, height }, { as: 'grey' });
  expect(grey.parts).toHaveLength(3);
  expect(grey.hashes).toHaveLength(2);
  const any = new Uint16Array(grey.parts[2]!.slice().buffer);
  expect([...any]).toEqual([...anyOf(mattes, n)].map((v) => Math.round(Math.min(v, 1) * 65535)));
  expect(any[3]).toBe(Math.round(mattes[0]![3]! * 65535));
  const exr = await packMattes(mattes, { width, height }, { as: 'exr', pieces: ['a', 'b'], pixelAspect: 1 });
  expect(Buffer.from(exr.parts[0]!).readUInt32LE(0)).toBe(0x01312f76);
  expect(isMovable(exr)).toBe(true);
});
