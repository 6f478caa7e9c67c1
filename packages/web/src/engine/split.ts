// A repaint's split of a piece as pictures: its body without sheen, and the sheen alone.
import { boundsOfMatte, grownBox, sheenOf, srgbCodeFromLinear, type Program, type SourceFrame } from '@mellow/core';
import type { Picture } from './frameProtocol.ts';
import { croppedPicture, scaledPicture } from './screen.ts';

const MARGIN = 0.06;
/** Outside the piece nothing is split: it is shown as this grey. */
const NOTHING = 40;

/** Undefined where sheen is not told apart, or nothing of the piece is there. */
export function splitPictures(
  frame: SourceFrame,
  alpha: Float32Array,
  { sheen: split }: Program,
  width: number,
): { body: Picture; sheen: Picture } | undefined {
  const { width: wide, height: tall } = frame.codes;
  const bounds = boundsOfMatte(alpha, wide, tall);
  if (!split || !bounds) return undefined;
  const { r, g, b } = frame.linear();
  const [er, eg, eb] = split.body.light;
  const sheen = sheenOf(frame.linear(), alpha, wide, tall, split.body, frame.scale);
  const box = grownBox(bounds, MARGIN, wide, tall);
  const picture = (light: (i: number) => readonly [number, number, number]): Picture => {
    const rgba = new Uint8ClampedArray(wide * tall * 4).fill(NOTHING);
    for (let i = 0; i < alpha.length; i++) {
      rgba[4 * i + 3] = 255;
      if (alpha[i]! >= 0.5) light(i).forEach((v, c) => (rgba[4 * i + c] = 255 * srgbCodeFromLinear(v)));
    }
    return scaledPicture(croppedPicture({ rgba, width: wide, height: tall }, box), width);
  };
  return {
    body: picture((i) => [r[i]! - sheen[i]! * er, g[i]! - sheen[i]! * eg, b[i]! - sheen[i]! * eb]),
    sheen: picture((i) => [sheen[i]! * er, sheen[i]! * eg, sheen[i]! * eb]),
  };
}
