/** Linear light of BT.709 primaries (1 = diffuse white), one plane a channel, row by row. */
export interface LinearPlanes {
  r: Float32Array;
  g: Float32Array;
  b: Float32Array;
}

/** Normalised code values (0..1 nominal) of some encoding, one plane a channel, row by row. */
export interface EncodedPlanes {
  r: Float32Array;
  g: Float32Array;
  b: Float32Array;
}

/** A plane of what `of` gives for each index; `Float32Array.from` of another plane takes ten times as long. */
export function planeOf(length: number, of: (index: number) => number): Float32Array {
  const out = new Float32Array(length);
  for (let i = 0; i < length; i++) out[i] = of(i);
  return out;
}

/** The samples of a plane at these indices. */
export function gatheredPlane(plane: Float32Array, index: Uint32Array): Float32Array {
  const out = new Float32Array(index.length);
  for (let k = 0; k < index.length; k++) out[k] = plane[index[k]!]!;
  return out;
}
/** A picture at these pixels. */
export const gatheredLight = ({ r, g, b }: LinearPlanes, index: Uint32Array): LinearPlanes => ({
  r: gatheredPlane(r, index),
  g: gatheredPlane(g, index),
  b: gatheredPlane(b, index),
});
