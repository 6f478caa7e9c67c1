// Which passes of a carried selection count on a frame.
import type { CarriedFrom, CarryRun } from '../document/carried.ts';
import type { ScribbleLayer } from '../document/layer.ts';
import { taughtFrames } from './carryPlan.ts';

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

/** The passes that may count on a frame; one from a frame whose strokes have been taken away counts nowhere. */
function runsFor({ strokes, carried = [] }: Pick<ScribbleLayer, 'strokes' | 'carried'>, frame: number): CarryRun[] {
  const taught = new Set(taughtFrames(strokes));
  // in the order in which frames were first carried from
  const older = [...new Set(carried.map(({ from }) => from))].filter((from) => taught.has(from));
  const itself = older.indexOf(frame);
  const counting = new Set(itself < 0 ? older : older.slice(0, itself));
  return carried.filter(({ from }) => counting.has(from));
}

/** By what power of their certainties two passes are weighed: what one has lost must not spoil the other. */
const BY_CERTAINTY = 4;

/**
 * What counts on a frame: what came from the nearest frame with strokes before it and from the nearest after it, the
 * last pass of each; the nearer and the surer of the two counts for more. A frame with strokes builds on frames that
 * were carried from before it was, not on those that were corrected since: what was right there stays so.
 */
export function carriedFrom(layer: Pick<ScribbleLayer, 'strokes' | 'carried'>, frame: number): CarriedFrom[] {
  const runs = runsFor(layer, frame);
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
