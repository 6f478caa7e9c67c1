import { boundsOfMatte, cutOut, NOWHERE, putBack, type PixelBox } from '@mellow/core';

/** A matte of which only what is not 0 is kept: α in a box, row by row. */
export interface BoxedMatte {
  box: PixelBox;
  alpha: Float32Array;
}
interface Size {
  width: number;
  height: number;
}

export function boxedMatte(alpha: Float32Array, { width, height }: Size): BoxedMatte {
  const box = boundsOfMatte(alpha, width, height, 0) ?? NOWHERE;
  return { box, alpha: cutOut(alpha, width, box) };
}
/** The same matte as a plane again, to the bit. */
export function wholeMatte({ box, alpha }: BoxedMatte, { width, height }: Size): Float32Array {
  const whole = new Float32Array(width * height);
  putBack(whole, width, alpha, box);
  return whole;
}
