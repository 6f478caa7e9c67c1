// What compares a frame with those around it: loaded when a matte is steadied, or looked at over time.
import {
  chatterBetween,
  slipOf,
  slipReference,
  boundsOfMatte,
  grownBox,
  type Homography,
  type SlipReference,
  type SourceFrame,
} from '@mellow/core';

import type { CutOutAnswer, Picture } from './frameProtocol.ts';
import { croppedPicture, cutOutInPlace, scaledPicture } from './screen.ts';

export { steadiedMatte } from '@mellow/core';

/** A matte on a frame; `scale` is the picture's size over the full resolution. */
interface Held {
  source: SourceFrame;
  alpha: Float32Array;
  width: number;
  height: number;
  scale: number;
}
let lastReference: { of: Float32Array; made: SlipReference } | undefined;
/** The reference's outline is found once for all frames that are compared with it. */
function referenceFor({ alpha, width, height, scale }: Held): SlipReference {
  if (lastReference?.of !== alpha) lastReference = { of: alpha, made: slipReference(alpha, width, height, scale) };
  return lastReference.made;
}

/**
 * A matte with those of the frames before and after it: grey where all agree; what only the frame before has is dimly
 * red, what only the frame after has dimly blue.
 */
export function ghosted(
  now: Float32Array,
  before: Float32Array,
  after: Float32Array,
  width: number,
  height: number,
): Picture {
  const rgba = new Uint8ClampedArray(width * height * 4).fill(255);
  for (let i = 0, j = 0; i < now.length; i++, j += 4) {
    rgba[j] = (now[i]! + before[i]!) * 127.5;
    rgba[j + 1] = now[i]! * 255;
    rgba[j + 2] = (now[i]! + after[i]!) * 127.5;
  }
  return { rgba, width, height };
}

/** Round a piece that is cut out, of its longer side. */
const MARGIN = 0.1;
/** What is selected, on grey, as large as a cell of so many pixels holds it. */
export function cutOutCell(picture: Picture, alpha: Float32Array, width: number, height: number): CutOutAnswer {
  const share = alpha.reduce((sum, a) => sum + a, 0) / alpha.length;
  const bounds = boundsOfMatte(alpha, picture.width, picture.height);
  if (!bounds) return { picture: undefined, share };
  cutOutInPlace(picture, alpha, 'grey');
  const part = croppedPicture(picture, grownBox(bounds, MARGIN, picture.width, picture.height));
  const scale = Math.min(width / part.width, height / part.height);
  return { picture: scaledPicture(part, Math.max(Math.round(part.width * scale), 1)), share };
}

/** How a matte flickers against the frame before, and slides against the track it follows. */
export function heldOverTime(
  now: Held,
  before: Held | undefined,
  track: { reference: Held; motion: Homography } | undefined,
): { chatter: number | undefined; slipPx: number | undefined } {
  const withLuma = (of: Held) => ({ ...of, luma: of.source.luma() });
  const chatter = before && chatterBetween(withLuma(before), withLuma(now), now.scale);
  const slip = track && slipOf(referenceFor(track.reference), now.alpha, track.motion);
  return { chatter, slipPx: slip?.px };
}
