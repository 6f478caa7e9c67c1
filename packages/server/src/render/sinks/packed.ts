// What a sink takes of a frame, made where the frame is rendered: to convert and hash one of 4K takes longer than a
// server may be deaf to others.
import { createHash } from 'node:crypto';
import type { CodePicture, CodePlane } from '@mellow/core';
import type { Samples } from '../presets/output.ts';
import { exrFile } from './exrFile.ts';
import { bytesOf, codes16, floats, halfFloats, integers, rounded } from './samples.ts';
import { floatsOfTiff, tiffFile } from './tiffFile.ts';

/** A rendered frame, and where it is asked for what any piece selects on it. */
export interface RenderedPicture extends CodePicture {
  alpha?: Float32Array;
}
/** How a picture is packed: as planes in ffmpeg's order, or as a TIFF of floats and planes behind it. */
export type PicturePacking = { as: 'planes'; samples: Samples; isHashed: boolean } | { as: 'tiff' };
/**
 * How mattes are packed, α of each piece in their order: as grey codes of each, or as an OpenEXR with a channel of
 * each. What any of them selects stands behind, in grey codes.
 */
export type MattePacking = { as: 'grey' } | { as: 'exr'; pieces: readonly string[]; pixelAspect: number };

export interface PackedFrame {
  parts: readonly Uint8Array[];
  /** By which what was written is known again, as many as the sink keeps count of; empty: it is not hashed. */
  hashes: readonly string[];
}

/** MD5 of a frame's samples, plane by plane, as `hashFrames` gives it. */
export function hashOfFrame(planes: readonly Uint8Array[]): string {
  const hash = createHash('md5');
  for (const plane of planes) hash.update(plane);
  return hash.digest('hex');
}

/** A plane as ffmpeg is to have it. */
const AS: Record<Samples, (plane: CodePlane) => Uint16Array | Float32Array> = {
  '16 bit': integers,
  '16 bit, alpha': integers,
  '12 bit': (plane) => rounded(plane, 4095),
  '10 bit': (plane) => rounded(plane, 1023),
  float: floats,
  'float, alpha': floats,
  half: halfFloats,
  'half, alpha': halfFloats,
};

export async function packPicture(picture: RenderedPicture, packing: PicturePacking): Promise<PackedFrame> {
  const { width, height, r, g, b, alpha } = picture;
  if (packing.as === 'planes') {
    const planes = [g, b, r, ...(alpha ? [alpha] : [])].map((plane) => bytesOf(AS[packing.samples](plane)));
    return { parts: planes, hashes: [packing.isHashed ? hashOfFrame(planes) : ''] };
  }
  const light = { width, height, r: floats(r), g: floats(g), b: floats(b) };
  const planes = [light.g, light.b, light.r].map(bytesOf);
  return { parts: [ownBytes(await tiffFile(light)), ...planes], hashes: [hashOfFrame(planes)] };
}

export async function packMattes(
  mattes: readonly Float32Array[],
  { width, height }: { width: number; height: number },
  packing: MattePacking,
): Promise<PackedFrame> {
  const any = bytesOf(codes16(anyOf(mattes, width * height)));
  if (packing.as === 'grey') {
    const codes = mattes.map((alpha) => bytesOf(codes16(alpha)));
    return { parts: [...codes, any], hashes: codes.map((plane) => hashOfFrame([plane])) };
  }
  const channels = packing.pieces.map((name, k) => ({ name, plane: mattes[k]! }));
  const file = await exrFile({ width, height, pixelAspect: packing.pixelAspect, channels });
  return { parts: [ownBytes(file), any], hashes: [createHash('sha256').update(file).digest('hex')] };
}

/** The hash of the planes that a TIFF was made of. */
export async function hashOfTiff(file: Buffer): Promise<string> {
  const { r, g, b } = await floatsOfTiff(file);
  return hashOfFrame([g, b, r].map(bytesOf));
}

/** What any of the mattes selects: the most that one does. */
export function anyOf(mattes: readonly Float32Array[], pixels: number): Float32Array {
  const any = new Float32Array(pixels);
  for (const matte of mattes) for (let i = 0; i < pixels; i++) if (matte[i]! > any[i]!) any[i] = matte[i]!;
  return any;
}

/** Bytes that share their memory with nothing else, and so can be moved: small buffers lie in a common pool. */
const ownBytes = (bytes: Buffer): Uint8Array =>
  bytes.byteLength === bytes.buffer.byteLength ? bytes : new Uint8Array(bytes);
