// What is known of a carried selection, frame by frame.
import type { Certainties, ScribbleLayer, Span } from '@mellow/contract';
import { carriedFrom, passesNeeded, taughtFrames } from '@mellow/core';
import type { Strip } from '../../viewer/lanes.ts';

/** Frames less sure than this are worth a look. */
export const DOUBTFUL = 0.9;

export interface CarriedState {
  /** Frames with strokes. */
  taught: number[];
  /** Per frame of the footage how sure it is, 0..1; 0 where the piece is out of sight; undefined: not carried there. */
  certainties: (number | undefined)[];
  /** Is there anything to carry that has not been, from strokes as they are now? */
  isDue: boolean;
}

/** A frame between two with strokes is as sure as the surer of what came from either, by how much each counts. */
export function carriedStateOf(layer: ScribbleLayer, found: Record<string, Certainties>, span: Span): CarriedState {
  const carried = (layer.carried ?? []).map((run) => ({ ...run, found: found[run.id] ?? [] }));
  const taught = taughtFrames(layer.strokes);
  const certaintyOn = (frame: number): number | undefined => {
    if (taught.includes(frame)) return 1;
    const from = carriedFrom({ strokes: layer.strokes, carried }, frame);
    if (from.length === 0) return undefined;
    return from.reduce((sum, { runId, weight }) => {
      const run = carried.find((r) => r.id === runId)!;
      return sum + weight * run.found[Math.abs(frame - run.from) - 1]!;
    }, 0);
  };
  const certainties = Array.from({ length: span.to + 1 }, (_, f) => (f < span.from ? undefined : certaintyOn(f)));
  const complete = carried.filter((run) => run.found.length >= Math.abs(run.to - run.from));
  return { taught, certainties, isDue: passesNeeded({ strokes: layer.strokes, carried: complete }, span).length > 0 };
}

/** The least sure frame of the next run of doubtful ones after a frame, or before it. */
export function nextDoubtful({ certainties }: CarriedState, frame: number, way: 1 | -1): number | undefined {
  const isDoubtful = (f: number) => (certainties[f] ?? 1) < DOUBTFUL;
  let at = frame;
  // out of the run that one is in
  while (isDoubtful(at)) at += way;
  while (at >= 0 && at < certainties.length && !isDoubtful(at)) at += way;
  let worst: number | undefined;
  for (; isDoubtful(at); at += way) if (worst === undefined || certainties[at]! < certainties[worst]!) worst = at;
  return worst;
}

/** The frames that it is unsure of. */
export function doubtfulFrames(state: CarriedState | undefined): ReadonlySet<number> {
  return new Set(state?.certainties.flatMap((c, f) => (c !== undefined && c < DOUBTFUL ? [f] : [])));
}

/** How sure the carried selection is, for the strips under the ruler. */
export const carriedStrips = (layer: ScribbleLayer | undefined, state: CarriedState | undefined): Strip[] =>
  layer && state
    ? [
        {
          label: `${layer.name}: certainty`,
          title: 'How sure the carried selection is per frame; full bars are frames with strokes',
          values: state.certainties,
          text: (v) => (v === 0 ? 'out of sight' : v.toFixed(2)),
          manual: state.taught,
        },
      ]
    : [];
