// Which passes of a carried selection count on a frame.
import type { CarriedFrom, CarryRun } from '../document/carried.ts';

/** Does a pass hold a frame? Its frames are found in order, its first not among them. */
function holds({ from, to, found = [] }: CarryRun, frame: number): boolean {
  return to > from ? frame > from && frame <= from + found.length : frame < from && frame >= from - found.length;
}

/** The least certainty of a pass up to a frame: what it has lost once it may never have found again. */
function leastUpTo({ from, found = [] }: CarryRun, frame: number): number {
  let least = 1;
  for (let k = 0; k < Math.abs(frame - from); k++) least = Math.min(least, found[k]!);
  return least;
}

/** By what power of their certainties two passes are weighed: what one has lost must not spoil the other. */
const BY_CERTAINTY = 4;

/**
 * What counts on a frame: what came from the nearest frame with strokes before it and from the nearest after it, the
 * last pass of each; the nearer and the surer of the two counts for more.
 */
export function carriedFrom(runs: readonly CarryRun[], frame: number): CarriedFrom[] {
  const nearest = (side: 1 | -1): CarryRun | undefined => {
    let best: CarryRun | undefined;
    for (const run of runs) {
      if (Math.sign(run.to - run.from) !== side || !holds(run, frame)) continue;
      if (!best || Math.abs(run.from - frame) <= Math.abs(best.from - frame)) best = run;
    }
    return best;
  };
  const [before, after] = [nearest(1), nearest(-1)];
  const at = ({ id }: CarryRun, weight: number): CarriedFrom => ({ runId: id, frame, weight });
  if (before && after) {
    const share = (frame - before.from) / (after.from - before.from);
    const counts = (run: CarryRun) => Math.max(leastUpTo(run, frame), 0.01) ** BY_CERTAINTY;
    const [a, b] = [(1 - share) * counts(before), share * counts(after)];
    return [at(before, a / (a + b)), at(after, b / (a + b))];
  }
  const only = before ?? after;
  return only ? [at(only, 1)] : [];
}
