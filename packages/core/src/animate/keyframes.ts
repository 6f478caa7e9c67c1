import type { Ease, Keyframe, NumberKeyframe } from '../document/animation.ts';

export const EASES = ['linear', 'smooth', 'hold'] as const satisfies readonly Ease[];

/**
 * Slopes at the keyframes of one component for a cubic that never overshoots: three-point differences, limited after
 * Fritsch & Carlson, "Monotone Piecewise Cubic Interpolation" (SIAM J. Numer. Anal. 17, 1980).
 */
function monotoneSlopes(frames: readonly number[], values: readonly number[]): number[] {
  const n = frames.length;
  const chord = Array.from({ length: n - 1 }, (_, i) => (values[i + 1]! - values[i]!) / (frames[i + 1]! - frames[i]!));
  const slopes = Array.from({ length: n }, (_, i) => {
    const [left, right] = [chord[i - 1], chord[i]];
    if (left === undefined || right === undefined) return left ?? right ?? 0;
    return left * right <= 0 ? 0 : (left + right) / 2;
  });
  for (let i = 0; i < n - 1; i++) {
    const d = chord[i]!;
    if (d === 0) {
      slopes[i] = slopes[i + 1] = 0;
      continue;
    }
    // their circle of radius 3 about chord-relative slopes, without dividing by a chord that may be next to nothing
    const length = Math.hypot(slopes[i]!, slopes[i + 1]!);
    const most = 3 * Math.abs(d);
    if (length > most) [slopes[i], slopes[i + 1]] = [slopes[i]! * (most / length), slopes[i + 1]! * (most / length)];
  }
  return slopes;
}

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
    // Hermite basis
    const [h00, h10, h01, h11] = [(1 + 2 * t) * (1 - t) ** 2, t * (1 - t) ** 2, t * t * (3 - 2 * t), t * t * (t - 1)];
    return from.value.map((v, k) => {
      const slope = slopesOf(k);
      return h00 * v + h10 * span * slope[i]! + h01 * to.value[k]! + h11 * span * slope[i + 1]!;
    });
  };
}

/** Keyframes with one more, or one replaced where there was one on that frame. */
export function withKeyframe<T>(keys: readonly Keyframe<T>[], key: Keyframe<T>): Keyframe<T>[] {
  return [...keys.filter((k) => k.frame !== key.frame), key].sort((a, b) => a.frame - b.frame);
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
