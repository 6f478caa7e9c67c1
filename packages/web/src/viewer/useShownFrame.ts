import { useEffect, useState, type RefObject } from 'react';
import type { Media } from '@mellow/contract';
import { store, useAppSelector } from '../app/store.ts';
import { frameClient } from '../engine/frameClient.ts';
import type { ShowTask } from '../engine/frameProtocol.ts';
import { measuredLive, type Live } from '../view/liveSlice.ts';
import type { SightingMeasurement } from '@mellow/core';
import { scopeFeed } from './scopes/scopeFeed.ts';
import type { FrameViewer } from './FrameViewer.ts';

const liveOf = ({ before, after, coverage }: SightingMeasurement, frame: number): Live => ({
  frame,
  before: { meanLinear: before.meanLinear, lab: before.lab },
  after: { meanLinear: after.meanLinear, lab: after.lab, ...(after.body && { body: after.body }) },
  pixels: before.pixels,
  coverage,
  resultClippedShare: after.clippedShare,
});

/** Has the frame in hand computed, shown and measured. Gives what went wrong, if anything did. */
export function useShownFrame(
  viewer: RefObject<FrameViewer | undefined>,
  canvas: RefObject<HTMLCanvasElement | null>,
  task: ShowTask | undefined,
  frame: number,
  media: Media | undefined,
): string | undefined {
  const playing = useAppSelector((s) => s.playing);
  const [problem, setProblem] = useState<string>();
  useEffect(() => {
    if (!task || !media) return viewer.current?.clear();
    const asked = performance.now();
    frameClient().show(task, (answer) => {
      if (answer instanceof Error) return setProblem(answer.message);
      setProblem(undefined);
      viewer.current?.show(answer.picture, media, answer.source);
      if (canvas.current) canvas.current.dataset.frame = String(frame);
      scopeFeed.publish(answer.scope);
      performance.measure('mellow:shown', { start: asked });
      // numbers that change with every frame cannot be read: they come when it stops
      if (store.getState().playing) return;
      store.dispatch(measuredLive(answer.measured ? liveOf(answer.measured, frame) : null));
    });
    // when it stops playing, the frame it stopped on is measured
  }, [task, media, frame, playing, viewer, canvas]);
  return problem;
}
