import { useEffect, useMemo, useRef, type RefObject } from 'react';
import type { ProjectDocument } from '@mellow/contract';
import { motionAt, type TrackMotion } from '@mellow/core';
import { useGetProjectQuery } from '../data/api.ts';
import { useFrameInSight } from '../inhand/passing.ts';
import { useDrafted, useInHand } from '../inhand/useInHand.ts';
import type { FrameViewer } from './FrameViewer.ts';
import { Readout } from './Readout.tsx';
import { usePlayback } from './usePlayback.ts';
import { usePrepared } from './usePrepared.ts';
import { useShownFrame } from './useShownFrame.ts';
import { useShowTask } from './useShowTask.ts';
import type { ViewerWork } from './viewerWork.ts';

interface Props {
  /** As what stands round the picture shows it: it follows a hand only now and then. */
  document: ProjectDocument;
  viewer: RefObject<FrameViewer | undefined>;
  canvas: RefObject<HTMLCanvasElement | null>;
  /** The track that the view holds still. */
  pinned: TrackMotion | undefined;
  outlinesAt: ViewerWork['outlinesAt'];
  onProblem: (problem: string | undefined) => void;
}
/**
 * Has the picture shown, played and measured as the hand moves, and says what lies under the pointer. It alone is
 * rendered with every move.
 */
export function Screening({ document, viewer, canvas, pinned, outlinesAt, onProblem }: Props) {
  const { data: saved = document } = useGetProjectQuery(document.project.value.id);
  const inHand = useInHand(useDrafted(saved));
  const { media, span } = inHand;
  const { frame, isPassing } = useFrameInSight(inHand);
  const taskAt = useShowTask(inHand);
  const task = useMemo(() => taskAt(frame), [taskAt, frame]);
  const answeredRef = useRef<number>(undefined);
  usePlayback(media, span, taskAt, answeredRef);
  usePrepared(media, span, frame, taskAt);
  useShownFrame(viewer, canvas, task, frame, media, onProblem, answeredRef);
  useEffect(() => {
    if (!pinned) return viewer.current?.hold(undefined, [0, 0]);
    const [a, , c] = pinned.quad;
    viewer.current?.hold(motionAt(pinned, frame).motion, [(a[0] + c[0]) / 2, (a[1] + c[1]) / 2]);
  }, [viewer, pinned, frame]);
  useEffect(
    () => viewer.current?.setPassing(isPassing ? (outlinesAt?.(frame) ?? []) : undefined),
    [viewer, isPassing, outlinesAt, frame],
  );
  return <Readout task={task} media={media} />;
}
