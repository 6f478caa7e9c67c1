import type { OverTimeAnswer } from '../../engine/frameProtocol.ts';

/** Mean and worst of one figure over the frames that have it. */
export function summed(
  frames: readonly OverTimeAnswer[],
  pick: (h: OverTimeAnswer) => number | undefined,
): { mean: number; worst: number; frame: number } | undefined {
  const known = frames.flatMap((h, frame) => {
    const value = pick(h);
    return value === undefined ? [] : [{ frame, value }];
  });
  if (known.length === 0) return undefined;
  const worst = known.reduce((a, b) => (b.value > a.value ? b : a));
  return { mean: known.reduce((s, k) => s + k.value, 0) / known.length, worst: worst.value, frame: worst.frame };
}
