// Frames of a film that a browser plays: it knows seconds only.
import type { Rate } from '@mellow/contract';

/** The second at which a frame, counted from 0, is surely shown: its middle. */
export const secondOf = (frame: number, { num, den }: Rate): number => ((frame + 0.5) * den) / num;

/** The frame, counted from 0, that is shown at a second; never past the last of `frames`. */
export function frameAtSecond(second: number, { num, den }: Rate, frames: number): number {
  // a frame's own timestamp, rounded by the container to a tick before it, is its own and not the last one's
  const tick = 1e-4;
  return Math.min(Math.max(Math.floor(((second + tick) * num) / den), 0), frames - 1);
}
/** How far apart two films that play together may be before one is set to the other, seconds: half a frame. */
export const apart = ({ num, den }: Rate): number => (0.5 * den) / num;
