import { useEffect, useMemo, useState } from 'react';
import { within, type ScribbleLayer, type Span } from '@mellow/contract';
import { taughtFrames } from '@mellow/core';
import { frameClient } from '../../engine/frameClient.ts';
import type { CarriedCell } from '../../engine/frameProtocol.ts';
import { frameRefOf, layerOn, withCarried } from '../../inhand/frameScene.ts';
import type { InHand } from '../../inhand/inHand.ts';

/** Pixels of a cell: two for one of the page. */
export const QUICK_CELL = { width: 144, height: 112 };
/** So far off are the frames that are looked at, on either side. */
const OFF = [2, 4];

/**
 * The frames after one with strokes, or before it, that what it selects is carried over, nearest first: not past the
 * ends of the shot, nor up to another frame with strokes.
 */
export function framesBeside(frame: number, way: 1 | -1, taught: readonly number[], span: Span): number[] {
  const frames: number[] = [];
  let before = frame;
  for (const off of OFF) {
    const at = within(span, frame + way * off);
    const isOnTheWay = (f: number) => (f - before) * way > 0 && (at - f) * way >= 0;
    if (at === before || taught.some(isOnTheWay)) break;
    frames.push((before = at));
  }
  return frames;
}

export interface QuickCell {
  frame: number;
  /** Undefined while it is being found; null where it could not be: a frame was not to be had, say. */
  cell: CarriedCell | null | undefined;
}
/**
 * How what strokes select on the frame in hand will go on: carried quickly over the frames beside it, after every
 * stroke, whether or not the shot's own pass has been made. None on frames without strokes.
 */
export function useQuickCarry(inHand: InHand, layer: ScribbleLayer | undefined, frame: number): QuickCell[] {
  const { document, shot, media, span, motions } = inHand;
  const wanted = useMemo(() => {
    const taught = taughtFrames(layer?.strokes ?? []);
    if (!layer?.carried || !shot || !media || !span || !taught.includes(frame)) return undefined;
    // what strokes select is carried, and only then inverted
    const now = { ...layerOn(document, layer, frame, motions), invert: false };
    const refOf = (f: number) => frameRefOf(document, shot, media, f);
    const task = { frame: withCarried(refOf(frame), document, [now]), layer: now };
    const ways = ([-1, 1] as const).map((way) => framesBeside(frame, way, taught, span));
    return { ways, tasks: ways.map((frames) => ({ ...task, following: frames.map(refOf) })) };
  }, [document, shot, media, span, motions, layer, frame]);
  // what else is edited, or arrives of the shot's own pass, changes nothing of it
  const key = useMemo(() => wanted && JSON.stringify(wanted), [wanted]);
  const [found, setFound] = useState<{ of: string; cells: ReadonlyMap<number, CarriedCell | null> }>();
  useEffect(() => {
    if (key === undefined) return undefined;
    const { ways, tasks } = JSON.parse(key) as NonNullable<typeof wanted>;
    const stop = new AbortController();
    const cells = new Map<number, CarriedCell | null>();
    const go = async (k: number) => {
      const task = { kind: 'carry quickly', ...tasks[k]!, ...QUICK_CELL } as const;
      // why it cannot be found the picture says
      const answer = await frameClient()
        .ask(task, stop.signal)
        .catch(() => undefined);
      if (stop.signal.aborted) return;
      ways[k]!.forEach((f, at) => cells.set(f, answer?.cells[at] ?? null));
      setFound({ of: key, cells: new Map(cells) });
    };
    for (const k of ways.keys()) if (ways[k]!.length > 0) void go(k);
    return () => stop.abort();
  }, [key]);
  if (!wanted) return [];
  const cells = found?.of === key ? found?.cells : undefined;
  const [before = [], after = []] = wanted.ways;
  return [...before.toReversed(), ...after].map((f) => ({ frame: f, cell: cells?.get(f) }));
}
