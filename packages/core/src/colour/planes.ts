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
