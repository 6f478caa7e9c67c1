// What compares a frame with those around it: loaded when a matte is steadied, or looked at over time.
import {
  chatterBetween,
  slipOf,
  slipReference,
  type Homography,
  type SlipReference,
  type SourceFrame,
} from '@mellow/core';

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
