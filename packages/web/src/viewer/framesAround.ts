// Which frames of a shot are likely to be looked at next.
import type { Span } from '@mellow/contract';

/** Frames that are computed: half a second of play, while the next are. */
const TO_PLAY = 12;
/** Frames whose pictures are decoded: two seconds of play, and what an arrow key steps back to. */
const [AHEAD, BEHIND] = [48, 8];

/** A frame so many further on; a shot, or a loop in it, plays round from its end. */
export function further(frame: number, by: number, { from, to }: Span): number {
  const length = to - from + 1;
  return from + ((((frame - from + by) % length) + length) % length);
}
const others = (frames: readonly number[], frame: number) => [...new Set(frames)].filter((f) => f !== frame);

/** The frames of a shot, or of the loop in it, that it plays on with, in order. */
export const framesToPlay = (frame: number, span: Span): number[] =>
  others(
    Array.from({ length: TO_PLAY }, (_, k) => further(frame, k + 1, span)),
    frame,
  );

/** The frames around one, the likeliest to be looked at next first. */
export function framesAround(frame: number, span: Span): number[] {
  const near = Array.from({ length: BEHIND }, (_, k) => [k + 1, -k - 1]).flat();
  const far = Array.from({ length: AHEAD - BEHIND }, (_, k) => BEHIND + k + 1);
  return others(
    [...near, ...far].map((by) => further(frame, by, span)),
    frame,
  );
}
