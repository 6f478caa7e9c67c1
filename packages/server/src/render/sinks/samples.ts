// Samples as they go into files.
import type { CodePlane } from '@mellow/core';

/** The samples of a plane, as they lie in memory. */
export const bytesOf = ({ buffer, byteOffset, byteLength }: ArrayBufferView): Buffer =>
  Buffer.from(buffer as ArrayBuffer, byteOffset, byteLength);

/**
 * A single-precision number rounded to the 11 significant bits of a half float: ffmpeg cuts the others off. After
 * Veltkamp's splitting (T. J. Dekker, A floating-point technique for extending the available precision, 1971).
 */
function toElevenBits(value: number): number {
  const much = Math.fround(value * (2 ** 13 + 1));
  const rounded = Math.fround(much - Math.fround(much - value));
  return Number.isFinite(rounded) ? rounded : value;
}

/** 16-bit codes of values from 0 to 1, rounded; what lies past is cut off. */
export function codes16(values: Float32Array): Uint16Array {
  const codes = new Uint16Array(values.length);
  for (let i = 0; i < codes.length; i++) codes[i] = Math.round(Math.min(Math.max(values[i]!, 0), 1) * 65535);
  return codes;
}

/** Floats as they are. Throws a RangeError where there are codes. */
export function floats(plane: CodePlane): Float32Array {
  if (!(plane instanceof Float32Array)) throw new RangeError('float samples were asked for');
  return plane;
}
/** 16-bit codes of codes of 8 bits too. */
export const integers = (plane: CodePlane): Uint16Array => {
  if (plane instanceof Float32Array) return codes16(plane);
  return plane instanceof Uint16Array ? plane : Uint16Array.from(plane, (v) => v * 257);
};
/** The same of fewer bits. */
export const rounded = (plane: CodePlane, maxCode: number): Uint16Array =>
  integers(plane).map((v) => Math.round((v * maxCode) / 65535));
export const halfFloats = (plane: CodePlane): Float32Array => floats(plane).map(toElevenBits);
