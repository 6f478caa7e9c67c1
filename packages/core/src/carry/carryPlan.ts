// Which passes a carried selection needs, and which of those made count on a frame.
import type { CarriedFrom, CarryRun } from '../document/carried.ts';
import type { ScribbleLayer, Stroke } from '../document/layer.ts';

/** The frames that have strokes, ascending: those that a selection is carried from. */
export function taughtFrames(strokes: readonly Stroke[]): number[] {
  const frames = new Set(strokes.flatMap((s) => (s.frame === undefined ? [] : [s.frame])));
  return [...frames].sort((a, b) => a - b);
}

/** In short, what the strokes on a frame are (FNV-1a, 32 bit): a pass counts as current while that is the same. */
export function strokesMark(strokes: readonly Stroke[], frame: number): string {
  const text = JSON.stringify(
    strokes.filter((s) => s.frame === frame).map(({ sign, widthPx, points }) => [sign, widthPx, points]),
  );
  let hash = 0x811c9dc5;
  for (let i = 0; i < text.length; i++) hash = Math.imul(hash ^ text.charCodeAt(i), 0x01000193) >>> 0;
  return hash.toString(16).padStart(8, '0');
}

/** A pass to be made. */
export type CarrySpan = Omit<CarryRun, 'id' | 'found'>;

/**
 * The passes that are missing: from each frame with strokes to the next one on either side, or to the end of the shot
 * (`frames`, both included). What has been carried from the same strokes as far stands, unless all is to be made anew.
 */
export function passesNeeded(
  { strokes, carried = [] }: Pick<ScribbleLayer, 'strokes' | 'carried'>,
  frames: { from: number; to: number },
  anew = false,
): CarrySpan[] {
  const taught = taughtFrames(strokes).filter((f) => f >= frames.from && f <= frames.to);
  const stands = (span: CarrySpan) =>
    carried.some(
      (run) =>
        run.from === span.from &&
        run.strokes === span.strokes &&
        (span.to > span.from ? run.to >= span.to : run.to <= span.to) &&
        run.to > run.from === span.to > span.from,
    );
  return taught
    .flatMap((from, k): CarrySpan[] => {
      const mark = strokesMark(strokes, from);
      const forward = { from, to: taught[k + 1] ?? frames.to, strokes: mark };
      const backward = { from, to: taught[k - 1] ?? frames.from, strokes: mark };
      return [forward, backward];
    })
    .filter((span) => span.from !== span.to && (anew || !stands(span)));
}

/** Does a pass hold a frame? Its frames are found in order, its first not among them. */
function holds({ from, to, found = [] }: CarryRun, frame: number): boolean {
  return to > from ? frame > from && frame <= from + found.length : frame < from && frame >= from - found.length;
}

/** By what power of their certainties two passes are weighed against each other: what is lost must not spoil the rest. */
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
    const counts = (run: CarryRun) => Math.max(run.found![Math.abs(frame - run.from) - 1]!, 0.01) ** BY_CERTAINTY;
    const [a, b] = [(1 - share) * counts(before), share * counts(after)];
    return [at(before, a / (a + b)), at(after, b / (a + b))];
  }
  const only = before ?? after;
  return only ? [at(only, 1)] : [];
}
