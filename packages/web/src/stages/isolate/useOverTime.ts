import { frameCount } from '@mellow/contract';
import { useEffect, useMemo, useRef, useState } from 'react';
import { motionAt } from '@mellow/core';
import { tellProblem } from '../../editing/editing.ts';
import type { InHand } from '../../inhand/inHand.ts';
import { frameSceneAt } from '../../inhand/frameScene.ts';
import { frameClient } from '../../engine/frameClient.ts';
import type { OverTimeAnswer } from '../../engine/frameProtocol.ts';
import type { Strip } from '../../viewer/lanes.ts';

/** Full height of the strips: chatter as a share, slip in pixels. */
const CHATTER_TOP = 0.3;
const SLIP_TOP_PX = 4;

/**
 * How the matte in hand holds through the shot: chatter against the frame before, slip against the track it follows
 * (or the one in hand). Computed when asked for, frame by frame; what an edit has overtaken is no longer shown.
 */
export function useOverTime(inHand: InHand, trackInHand: string | undefined) {
  const { document, shot, media, span, piece, colourwayId, sighting, motions } = inHand;
  const followed = sighting?.layers.flatMap((l) =>
    'follow' in l && l.follow && motions.has(l.follow.trackId) ? [l.follow.trackId] : [],
  )[0];
  const trackId = followed ?? trackInHand;
  const track = trackId === undefined ? undefined : motions.get(trackId);
  /** All that the figures depend on. */
  const { layers, cleanUp, animated, steadyFrames } = sighting ?? {};
  const of = useMemo(
    () => ({ layers, cleanUp, animated, steadyFrames, shot, media, track }),
    [layers, cleanUp, animated, steadyFrames, shot, media, track],
  );
  const [found, setFound] = useState<{ of: typeof of; frames: OverTimeAnswer[] }>();
  const [running, setRunning] = useState(false);
  const stop = useRef(false);
  const frames = found?.of === of ? found.frames : undefined;
  // an edit ends a check that was about what stood before it
  useEffect(() => () => void (stop.current = true), [of]);

  const check = async () => {
    if (!shot || !media || !span || !sighting || running) return;
    stop.current = false;
    setRunning(true);
    const at = (f: number) => frameSceneAt({ document, shot, media, colourwayId, pieceId: piece?.id, motions }, f);
    const isStopped = () => stop.current;
    const all: OverTimeAnswer[] = [];
    try {
      const ask = (f: number) =>
        frameClient().ask({
          kind: 'over time',
          now: at(f),
          before: f > span.from ? at(f - 1) : undefined,
          track: track && { reference: at(track.referenceFrame), motion: motionAt(track, f).motion },
        });
      // the next frame is loaded while this one is worked on
      let next = ask(span.from);
      for (let f = span.from; f <= span.to && !isStopped(); f++) {
        const current = next;
        if (f < span.to) next = ask(f + 1);
        // told when its turn comes, or not at all after a stop
        next.catch(() => undefined);
        all.push(await current);
        setFound({ of, frames: [...all] });
      }
    } catch (error) {
      tellProblem(error);
    }
    setRunning(false);
  };
  const first = span?.from ?? 0;
  const strips = useMemo((): Strip[] => {
    if (!frames) return [];
    const values = (pick: (h: OverTimeAnswer) => number | undefined, top: number) => [
      ...new Array<undefined>(first).fill(undefined),
      ...frames.map((h) => {
        const v = pick(h);
        return v === undefined ? undefined : Math.min(v / top, 1);
      }),
    ];
    return [
      {
        label: 'Chatter',
        title: `How much the matte’s edge flickers from the frame before; full height is ${CHATTER_TOP}`,
        values: values((h) => h.chatter, CHATTER_TOP),
        text: (v) => (v * CHATTER_TOP).toFixed(2),
      },
      ...(track
        ? [
            {
              label: 'Slip',
              title: `How far the matte has slid against its track; full height is ${SLIP_TOP_PX} px`,
              values: values((h) => h.slipPx, SLIP_TOP_PX),
              text: (v: number) => (v * SLIP_TOP_PX).toFixed(1),
            },
          ]
        : []),
    ];
  }, [frames, first, track]);
  return {
    frames,
    running,
    total: span ? frameCount(span) : 0,
    hasTrack: track !== undefined,
    strips,
    check,
    cancel: () => void (stop.current = true),
  };
}
export type OverTime = ReturnType<typeof useOverTime>;
