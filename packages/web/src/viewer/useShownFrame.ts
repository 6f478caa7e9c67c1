import { useEffect, type RefObject } from 'react';
import { debounce, throttle } from 'throttle-debounce';
import type { Media } from '@mellow/contract';
import { store, useAppSelector } from '../app/store.ts';
import { frameClient } from '../engine/frameClient.ts';
import type { ShowTask } from '../engine/frameProtocol.ts';
import { measuredLive, type Live } from '../view/liveSlice.ts';
import type { SightingMeasurement } from '@mellow/core';
import { scopeFeed } from './scopes/scopeFeed.ts';
import { isPassing } from '../inhand/passing.ts';
import { FOLLOW_MS, REST_MS } from '../inhand/useCalmly.ts';
import { FiguresNowAndThen } from './figuresNowAndThen.ts';
import type { FrameViewer } from './FrameViewer.ts';

const liveOf = ({ before, after, coverage }: SightingMeasurement, frame: number): Live => ({
  frame,
  before: { meanLinear: before.meanLinear, lab: before.lab },
  after: { meanLinear: after.meanLinear, lab: after.lab, ...(after.body && { body: after.body }) },
  pixels: before.pixels,
  coverage,
  resultClippedShare: after.clippedShare,
});

const tell = (live: Live | null) => store.dispatch(measuredLive(live));
/** Later: unless another piece has been taken in hand meanwhile. */
function tellLater(live: Live | null, pieceId: string | null): void {
  if (store.getState().where.pieceId === pieceId) tell(live);
}
const figures = new FiguresNowAndThen(FOLLOW_MS);
const tellNowAndThen = throttle(FOLLOW_MS, tellLater);
const tellAtRest = debounce(REST_MS, tellLater);
/**
 * While a hand changes something figures come a few times a second, while frames pass when they rest; those of what the
 * hand has come to at once.
 */
function tellMeasured(live: Live | null): void {
  const { draft, where } = store.getState();
  if (isPassing()) return tellAtRest(live, where.pieceId);
  if (Object.keys(draft).length > 0) return tellNowAndThen(live, where.pieceId);
  for (const later of [tellNowAndThen, tellAtRest]) later.cancel({ upcomingOnly: true });
  tell(live);
}

/**
 * Has the frame in sight computed, shown and measured, and says what went wrong, if anything did; `answeredRef` is the
 * last frame of which there is nothing more to wait for.
 */
export function useShownFrame(
  viewer: RefObject<FrameViewer | undefined>,
  canvas: RefObject<HTMLCanvasElement | null>,
  task: ShowTask | undefined,
  frame: number,
  media: Media | undefined,
  onProblem: (problem: string | undefined) => void,
  answeredRef: RefObject<number | undefined>,
): void {
  const playing = useAppSelector((s) => s.playing);
  useEffect(() => {
    if (!task || !media) {
      answeredRef.current = frame;
      frameClient().showNothing();
      return viewer.current?.clear();
    }
    const asked = performance.now();
    const now = figures.wanted(task, asked);
    frameClient().show(now, (answer) => {
      answeredRef.current = frame;
      if (answer instanceof Error) return onProblem(answer.message);
      onProblem(undefined);
      viewer.current?.show(answer.picture, media, answer.source);
      if (canvas.current) canvas.current.dataset.frame = String(frame);
      scopeFeed.publish(answer.scope);
      performance.measure('mellow:shown', { start: asked });
      // numbers that change with every frame cannot be read: they come when it stops
      if (store.getState().playing || now.measure !== task.measure) return;
      if (answer.measured) figures.came(performance.now());
      tellMeasured(answer.measured ? liveOf(answer.measured, frame) : null);
    });
    // when it stops playing, the frame it stopped on is measured
  }, [task, media, frame, playing, viewer, canvas, onProblem, answeredRef]);
}
