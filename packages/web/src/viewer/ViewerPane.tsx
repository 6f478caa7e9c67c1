import { lazy, Suspense, useEffect, useLayoutEffect, useRef, useState } from 'react';
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
import { useRightAfter } from '../ui/useRightAfter.ts';
import { Screening } from './Screening.tsx';
import { useShow } from './useShowTask.ts';
import { useTool } from './useTool.ts';
import { keyOnPicture, useViewerKeys } from './useViewerKeys.ts';
import { ViewerBar } from './ViewerBar.tsx';
import type { ViewerWork } from './viewerWork.ts';
import { ViewNote } from './ViewNote.tsx';
import { whyNoPicture } from './whyNoPicture.ts';

const ScopePane = lazy(() => import('./scopes/ScopePane.tsx'));

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
  const { compare, wipe } = useAppSelector((s) => s.look);
  const scopePlace = useAppSelector((s) => s.look.scope.place);
  const isSourceHeld = useAppSelector((s) => s.hand.sourceHeld);
  const canvas = useRef<HTMLCanvasElement>(null);
  const over = useRef<HTMLCanvasElement>(null);
  const viewer = useRef<FrameViewer | undefined>(undefined);
  const dotMoved = useRef(work?.dotMoved);
  useEffect(() => {
    dotMoved.current = work?.dotMoved;
  });
  // before all that is told to it: the effects of what lies inside are run first
  useLayoutEffect(() => {
    const made = new FrameViewer(canvas.current!, over.current!, {
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
  const show = useShow();
  const [problem, setProblem] = useState<string>();
  const tools = work ? (work.tools ?? TOOLS) : [];
  useTool(viewer, work);
  useViewerKeys(viewer, tools);

  useEffect(() => viewer.current?.setCompare(isSourceHeld ? 'off' : compare, wipe), [compare, wipe, isSourceHeld]);
  const { noted, onFrame } = useOpenNotes(inHand, frame);
  useEffect(() => viewer.current?.setNotes(onFrame), [onFrame]);
  const pinned = pinTrack && trackId ? motions.get(trackId) : undefined;

  // the bar and the menus follow when the hand lets them
  const { shown: around, listening } = useRightAfter(inHand);
  const message = whyNoPicture(inHand, problem);
  const soloed = sighting?.layers.find((l) => l.id === soloId);
  return (
    <div className="stage-view">
      <div style={{ display: 'contents' }} {...listening}>
        <ViewerBar
          inHand={around}
          tools={tools}
          onFit={() => viewer.current?.fit()}
          onFullSize={() => viewer.current?.zoomTo(1)}
        />
      </div>
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
            <canvas ref={over} className="over" aria-hidden />
            {message && <div className="message">{message}</div>}
          </>
        </PictureMenu>
        {scopePlace === 'beside' && (
          <Suspense fallback={null}>
            <ScopePane inHand={inHand} />
          </Suspense>
        )}
      </div>
      <div className="readout">
        <Screening
          document={inHand.document}
          viewer={viewer}
          canvas={canvas}
          pinned={pinned}
          outlinesAt={work?.outlinesAt}
          onProblem={setProblem}
        />
        <ViewNote
          isPinned={pinned !== undefined}
          soloName={soloed?.name}
          viewTable={inHand.document.project.value.viewTable?.name}
          notes={onFrame}
        />
      </div>
      {media && span && <FrameRuler media={media} span={span} lanes={lanes} strips={strips} noted={noted} />}
    </div>
  );
}
