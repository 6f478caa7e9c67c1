import { decodeTable, linearFromCode, toLinear709InPlace, type Encoding } from '../colour/encoding.ts';
import type { Lookup } from '../colour/lookupTable.ts';
import { oklabFromLinear709Into, type OklabPlanes } from '../colour/oklabPlanes.ts';
import type { LinearPlanes } from '../colour/planes.ts';

/** Code values of one channel: 8 or 16 bit integers, or floats where 1 is full scale. */
export type CodePlane = Uint8Array | Uint16Array | Float32Array;

/** A picture as it was decoded: R, G, B code values in its own encoding, one plane a channel, row by row. */
export interface CodePicture {
  width: number;
  height: number;
  r: CodePlane;
  g: CodePlane;
  b: CodePlane;
}

/** The code that stands for full scale: 255, 65535, or 1 for floats. */
export function maxCodeOf(plane: CodePlane): number {
  if (plane instanceof Uint8Array) return 255;
  return plane instanceof Uint16Array ? 65535 : 1;
}

/** Throws RangeError when a plane's length is not width × height or the planes' types differ. */
export function assertPicture(picture: CodePicture): void {
  const wanted = picture.width * picture.height;
  for (const channel of ['r', 'g', 'b'] as const) {
    if (picture[channel].length !== wanted)
      throw new RangeError(
        `plane ${channel} holds ${picture[channel].length} samples, ${picture.width} × ` +
          `${picture.height} needs ${wanted}`,
      );
    if (maxCodeOf(picture[channel]) !== maxCodeOf(picture.r))
      throw new RangeError(`plane ${channel} has another sample type than plane r`);
  }
}

/** Gives the decode table of an encoding and sample depth; see `decodeTable`. */
export type DecodeTables = (encoding: Encoding, maxCode: number) => Float32Array;

/** Linear BT.709 light of a picture's codes. With `encodedFromLinear709`, all there is between codes and light. */
export function linearPlanesOf(
  picture: CodePicture,
  encoding: Encoding,
  tables: DecodeTables = decodeTable,
): LinearPlanes {
  const maxCode = maxCodeOf(picture.r);
  const n = picture.width * picture.height;
  const out: LinearPlanes = { r: new Float32Array(n), g: new Float32Array(n), b: new Float32Array(n) };
  for (const channel of ['r', 'g', 'b'] as const) decodeInto(out[channel], picture[channel], encoding, maxCode, tables);
  toLinear709InPlace(out, encoding);
  return out;
}

function decodeInto(
  out: Float32Array,
  codes: CodePlane,
  encoding: Encoding,
  maxCode: number,
  tables: DecodeTables,
): void {
  if (codes instanceof Float32Array) {
    for (let i = 0; i < codes.length; i++) out[i] = linearFromCode(encoding, codes[i]!);
    return;
  }
  const table = tables(encoding, maxCode);
  for (let i = 0; i < codes.length; i++) out[i] = table[codes[i]!]!;
}

/**
 * Encoded values in a plane like `codes`: integer codes are rounded and clamped to their range, floats are left as they
 * are.
 */
export function codesFromEncoded(like: CodePlane, encoded: Float32Array): CodePlane {
  if (like instanceof Float32Array) return encoded;
  const maxCode = maxCodeOf(like);
  const out = like instanceof Uint8Array ? new Uint8Array(encoded.length) : new Uint16Array(encoded.length);
  for (let i = 0; i < out.length; i++) out[i] = Math.min(Math.max(encoded[i]! * maxCode + 0.5, 0), maxCode);
  return out;
}

/** OKLab of linear planes. */
export function oklabPlanesOf(linear: LinearPlanes, root: Lookup): OklabPlanes {
  const n = linear.r.length;
  const out: OklabPlanes = { L: new Float32Array(n), a: new Float32Array(n), b: new Float32Array(n) };
  oklabFromLinear709Into(out, linear.r, linear.g, linear.b, root);
  return out;
}
