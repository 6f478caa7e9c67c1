import { hermite, monotoneSlopes } from '../colour/monotoneCubic.ts';
import type { Ease, Keyframe, NumberKeyframe } from '../document/animation.ts';

export const EASES = ['linear', 'smooth', 'hold'] as const satisfies readonly Ease[];

/** The last keyframe at or before a frame, by bisection; 0 before the first. */
function indexBefore(keys: readonly Keyframe<unknown>[], frame: number): number {
  let [low, high] = [0, keys.length - 1];
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    if (keys[middle]!.frame <= frame) low = middle;
    else high = middle - 1;
  }
  return low;
}

/** The value on a frame (any real number); before the first and after the last keyframe it stays as it is there. */
export const numberAt = (keys: readonly NumberKeyframe[], frame: number): number => numberCurve(keys)(frame);

/**
 * `numberAt` of the same keyframes for many frames: what they have in common is computed once, so that a frame costs a
 * bisection however many keyframes there are. Throws RangeError without keyframes.
 */
export function numberCurve(keys: readonly NumberKeyframe[]): (frame: number) => number {
  const vectors = keys.map((k) => ({ ...k, value: [k.value] }));
  const curve = vectorCurve(vectors);
  return (frame) => curve(frame)[0]!;
}

/** Several numbers animated together, component by component. All keyframes hold equally many. */
export const vectorAt = (keys: readonly Keyframe<readonly number[]>[], frame: number): number[] =>
  vectorCurve(keys)(frame);

/**
 * `vectorAt` of the same keyframes for many frames. Slopes are computed when the first smooth stretch asks for them.
 */
function vectorCurve(keys: readonly Keyframe<readonly number[]>[]): (frame: number) => number[] {
  const first = keys[0];
  if (!first) throw new RangeError('keys is empty');
  const last = keys.at(-1)!;
  let slopes: number[][] | undefined;
  const slopesOf = (component: number): number[] => {
    slopes ??= first.value.map((_, k) =>
      monotoneSlopes(
        keys.map((key) => key.frame),
        keys.map((key) => key.value[k]!),
      ),
    );
    return slopes[component]!;
  };
  return (frame) => {
    if (frame <= first.frame) return [...first.value];
    if (frame >= last.frame) return [...last.value];
    const i = indexBefore(keys, frame);
    const [from, to] = [keys[i]!, keys[i + 1]!];
    if (from.ease === 'hold' || frame === from.frame) return [...from.value];
    const span = to.frame - from.frame;
    const t = (frame - from.frame) / span;
    if (from.ease === 'linear') return from.value.map((v, k) => v + (to.value[k]! - v) * t);
    return from.value.map((v, k) => {
      const slope = slopesOf(k);
      return hermite(t, span, v, to.value[k]!, slope[i]!, slope[i + 1]!);
    });
  };
}

/** Keyframes with one more, or one replaced where there was one on that frame. */
export function withKeyframe<T>(keys: readonly Keyframe<T>[], key: Keyframe<T>): Keyframe<T>[] {
  return [...keys.filter((k) => k.frame !== key.frame), key].sort((a, b) => a.frame - b.frame);
}
/** Values further apart than this are not the same. */
const SAME = 1e-9;
/**
 * Keyframes with one more (or one replaced), where the value on every whole frame before it stays what it was and goes
 * over to the new one at once. Where the way there was smooth, and so depends on what follows, it is written out frame
 * by frame.
 */
export function withKeyframeFromHere(keys: readonly NumberKeyframe[], own: NumberKeyframe): NumberKeyframe[] {
  const { frame } = own;
  const rest = [own, ...keys.filter((k) => k.frame > frame)];
  if (frame === 0 || keys.length === 0) return withKeyframe(keys, own);
  const was = numberCurve(keys);
  const standing = (at: number): NumberKeyframe => ({ frame: at, value: was(at), ease: 'hold' });
  const before = keys.filter((k) => k.frame < frame);
  const last = before.at(-1);
  const isLevel = !last || last.ease === 'hold' || last === keys.at(-1);
  // where it changes on the way here, the last frame before holds what it had come to
  const end = standing(isLevel ? (last?.frame ?? 0) : frame - 1);
  let kept = [...before.filter((k) => k.frame < end.frame), end];
  for (;;) {
    const now = numberCurve([...kept, ...rest]);
    let changed = 0;
    while (changed < frame && Math.abs(now(changed) - was(changed)) <= SAME) changed++;
    if (changed === frame) return [...kept, ...rest];
    const from = kept.findLast((k) => k.frame <= changed)?.frame ?? 0;
    const written = Array.from({ length: frame - from }, (_, i) => ({
      ...standing(from + i),
      ease: 'linear' as const,
    }));
    kept = [...kept.filter((k) => k.frame < from), ...written.slice(0, -1), standing(frame - 1)];
  }
}
export const withoutFrames = <T>(keys: readonly Keyframe<T>[], gone: (frame: number) => boolean): Keyframe<T>[] =>
  keys.filter((k) => !gone(k.frame));
/** Keyframes of some frames moved by `by`; where they land on others, the moved ones stay. None goes before frame 0. */
export function movedKeyframes<T>(
  keys: readonly Keyframe<T>[],
  which: (frame: number) => boolean,
  by: number,
): Keyframe<T>[] {
  const moving = keys.filter((k) => which(k.frame)).map((k) => ({ ...k, frame: Math.max(k.frame + by, 0) }));
  const resting = keys.filter((k) => !which(k.frame) && !moving.some((m) => m.frame === k.frame));
  return [...resting, ...moving].sort((a, b) => a.frame - b.frame);
}
