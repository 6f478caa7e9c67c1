/**
 * How a value goes on from a keyframe to the next: straight, smoothly without overshoot, or not at all until the next.
 */
export type Ease = 'linear' | 'smooth' | 'hold';

/** Keyframes of one thing are kept in ascending order of frame, one a frame. */
export interface Keyframe<T> {
  frame: number;
  value: T;
  ease: Ease;
}

export type NumberKeyframe = Keyframe<number>;

/** Keyframes by the dotted name of a number inside an object: `strength`, `cleanUp.edgePx`, `key.hue.lo`. */
export type Animated = Record<string, NumberKeyframe[]>;
