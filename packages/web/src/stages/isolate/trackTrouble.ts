// What is wrong with the track that a layer follows, and what to try: said where the layer is.
import { frameCount, within, type LossReason, type RunResult, type Span, type Track } from '@mellow/contract';
import type { TrackMotion } from '@mellow/core';

const TRY: Record<LossReason, string> = {
  'left the picture': 'set a keyframe of the track where it is seen again',
  covered: 'draw a hold-out over what covers it, or set a keyframe after it',
  'no texture': 'draw a larger region, or one with more texture',
};
const REASON: Record<LossReason, string> = {
  'left the picture': 'it leaves the picture',
  covered: 'it is covered',
  'no texture': 'there is too little texture',
};

/** Undefined where the track holds all through the shot, or has not been run and so has not failed. */
export function trackTrouble(
  track: Track | undefined,
  motion: TrackMotion | undefined,
  runs: readonly RunResult[],
  span: Span,
): string | undefined {
  if (!track || !motion) return 'It follows a track that is gone: it stays still.';
  const own = runs.filter((r) => track.runs.some((x) => x.id === r.runId));
  const known = new Set([track.referenceFrame, ...motion.known.keys()]);
  const isShown = (frame: number) => frame === within(span, frame);
  if ([...known].filter(isShown).length >= frameCount(span)) return undefined;
  const isMissing = (frame: number) => isShown(frame) && !known.has(frame);
  const [stop] = own.flatMap((r) => (r.stopped && isMissing(r.stopped.frame) ? [r.stopped] : []));
  if (!stop) {
    if (own.length === 0 && track.manual.length === 0) return `${track.name} has not been run yet: it stays still.`;
    return undefined;
  }
  const what = `${track.name} stops at frame ${stop.frame}: ${REASON[stop.reason]}.`;
  return `${what} Try: ${TRY[stop.reason]}.`;
}
