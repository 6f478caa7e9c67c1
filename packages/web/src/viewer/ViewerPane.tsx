import { useDeferredValue, useEffect, useMemo, useRef } from 'react';
import { motionAt } from '@mellow/core';
import { store, useAppSelector } from '../app/store.ts';
import type { InHand } from '../inhand/inHand.ts';
import { useFrame } from '../inhand/useFrame.ts';
import { useOpenNotes } from '../inhand/useOpenNotes.ts';
import { TOOLS } from '../view/handSlice.ts';
import { lookChanged } from '../view/lookSlice.ts';
import { FrameRuler } from './FrameRuler.tsx';
import { FrameViewer } from './FrameViewer.ts';
import type { Lane, Strip } from './lanes.ts';
import { PictureMenu } from './PictureMenu.tsx';
import { placeFeed, zoomFeed } from './pointerFeeds.ts';
import { Readout } from './Readout.tsx';
import { ScopePane } from './scopes/ScopePane.tsx';
import { usePlayback } from './usePlayback.ts';
import { useShownFrame } from './useShownFrame.ts';
import { useShowTask } from './useShowTask.ts';
import { useTool } from './useTool.ts';
import { keyOnPicture, useViewerKeys } from './useViewerKeys.ts';
import { ViewerBar } from './ViewerBar.tsx';
import type { ViewerWork } from './viewerWork.ts';
import { ViewNote } from './ViewNote.tsx';
import { whyNoPicture } from './whyNoPicture.ts';

interface Props {
  inHand: InHand;
  work?: ViewerWork | undefined;
  lanes?: readonly Lane[];
  strips?: readonly Strip[];
}

/** The picture of the shot in hand with everything round it. */
export function ViewerPane({ inHand, work, lanes = [], strips = [] }: Props) {
  const { shot, media, span, sighting, motions } = inHand;
  const { trackId, pinTrack, soloId } = useAppSelector((s) => s.where);
  const { compare, wipe, liftStops } = useAppSelector((s) => s.look);
  const scopePlace = useAppSelector((s) => s.look.scope.place);
  const isSourceHeld = useAppSelector((s) => s.hand.sourceHeld);
  const canvas = useRef<HTMLCanvasElement>(null);
  const viewer = useRef<FrameViewer | undefined>(undefined);
  const dotMoved = useRef(work?.dotMoved);
  useEffect(() => {
    dotMoved.current = work?.dotMoved;
  });
  useEffect(() => {
    const made = new FrameViewer(canvas.current!, {
      probed: placeFeed.publish,
      zoomed: zoomFeed.publish,
      wiped: (moved) => store.dispatch(lookChanged({ wipe: moved })),
      dotMoved: (index, to) => dotMoved.current?.(index, to),
    });
    viewer.current = made;
    return () => {
      made.close();
      placeFeed.publish(undefined);
    };
  }, []);

  const frame = useFrame(inHand);
  const { taskAt, show } = useShowTask(inHand);
  const task = useMemo(() => taskAt(frame), [taskAt, frame]);
  const fps = usePlayback(media, span, taskAt);
  const problem = useShownFrame(viewer, canvas, task, frame, media);
  const tools = work ? (work.tools ?? TOOLS) : [];
  useTool(viewer, work);
  useViewerKeys(viewer, tools);

  useEffect(() => viewer.current?.setCompare(isSourceHeld ? 'off' : compare, wipe), [compare, wipe, isSourceHeld]);
  useEffect(() => viewer.current?.setLift(liftStops), [liftStops]);
  const { noted, onFrame } = useOpenNotes(inHand, frame);
  useEffect(() => viewer.current?.setNotes(onFrame), [onFrame]);
  const pinned = pinTrack && trackId ? motions.get(trackId) : undefined;
  useEffect(() => {
    if (!pinned) return viewer.current?.hold(undefined, [0, 0]);
    const [a, , c] = pinned.quad;
    viewer.current?.hold(motionAt(pinned, frame).motion, [(a[0] + c[0]) / 2, (a[1] + c[1]) / 2]);
  }, [pinned, frame]);

  // the bar and the menus follow when the hand lets them
  const around = useDeferredValue(inHand);
  const message = whyNoPicture(inHand, problem);
  const soloed = sighting?.layers.find((l) => l.id === soloId);
  return (
    <div className="stage-view">
      <ViewerBar
        inHand={around}
        tools={tools}
        onFit={() => viewer.current?.fit()}
        onFullSize={() => viewer.current?.zoomTo(1)}
      />
      <div className="picture-row">
        <PictureMenu inHand={around} viewer={viewer} hasShape={work?.shape !== undefined}>
          <>
            <canvas
              ref={canvas}
              tabIndex={0}
              role="img"
              aria-label={shot ? `${shot.name}, frame ${frame}, ${show}` : 'No picture'}
              data-view={show}
              onKeyDown={(e) => keyOnPicture(viewer.current, e)}
            />
            {message && <div className="message">{message}</div>}
          </>
        </PictureMenu>
        {scopePlace === 'beside' && <ScopePane inHand={inHand} />}
      </div>
      <div className="readout">
        <Readout task={task} media={media} />
        <ViewNote isPinned={pinned !== undefined} soloName={soloed?.name} notes={onFrame} />
      </div>
      {media && span && <FrameRuler media={media} span={span} fps={fps} lanes={lanes} strips={strips} noted={noted} />}
    </div>
  );
}
