import { z } from 'zod';

export const FrameNumber = z.number().int().min(0).max(10_000_000);
/** How a value goes on from a keyframe to the next; see core/animate/keyframes. */
export const Ease = z.enum(['linear', 'smooth', 'hold']);
export type Ease = z.infer<typeof Ease>;

/** Keyframes, one a frame, in ascending order. */
export const keyframesOf = <T extends z.ZodType>(value: T) =>
  z
    .array(z.object({ frame: FrameNumber, value, ease: Ease }))
    .min(1)
    .max(5000)
    .refine((keys) => keys.every((k, i) => i === 0 || k.frame > keys[i - 1]!.frame), {
      message: 'keyframes must be in ascending order, one a frame',
    });
export const NumberKeyframes = keyframesOf(z.number().min(-1e6).max(1e6));
export type NumberKeyframes = z.infer<typeof NumberKeyframes>;
/** Keyframes by the dotted name of the number: `strength`, `cleanUp.edgePx`, `shift.hueDeg`. */
export const Animated = z.record(
  z
    .string()
    // no numbers between the dots: what lies in a list has no keyframes of its own
    .regex(/^[a-zA-Z]\w*(\.[a-zA-Z]\w*)*$/)
    .max(80),
  NumberKeyframes,
);
export type Animated = z.infer<typeof Animated>;
