import { Button, Tooltip } from 'antd';
import { KeyTip } from '../keys/KeyTip.tsx';
import { ChevronFirst, ChevronLast, Pause, Play, Repeat } from 'lucide-react';
import { lazy, Suspense, useRef, type PointerEvent } from 'react';
import { useCommands } from '../keys/useCommands.ts';
import { frameCount, within, type Media, type Span } from '@mellow/contract';
import { useAppDispatch, useAppSelector } from '../app/store.ts';
import { moved } from '../view/whereSlice.ts';
import { playToggled } from '../view/playSlice.ts';
import { useFeed } from '../inhand/feed.ts';
import { passFrame, restOnFrame, useFrameInSight } from '../inhand/passing.ts';
import { useFrame } from '../inhand/useFrame.ts';
import { useDrawn } from '../ui/useDrawn.ts';
import { drawRuler } from './drawRuler.ts';
import type { Lane, Strip } from './lanes.ts';
import { rateFeed } from './usePlayback.ts';

const KeyframeLanes = lazy(() => import('./KeyframeLanes.tsx'));

/** Transport and the frames of the shot: click or drag to go to a frame; under it what is animated. */
export function FrameRuler({
  media,
  span,
  lanes = [],
  strips = [],
  noted,
}: {
  media: Media;
  span: Span;
  lanes?: readonly Lane[];
  strips?: readonly Strip[];
  /** Frames with notes that are still to be seen to. */
  noted: readonly number[];
}) {
  const dispatch = useAppDispatch();
  const frame = useFrame({ span });
  const playing = useAppSelector((s) => s.playing);
  const loop = useAppSelector((s) => s.where.loop);
  const { from: first, to: last } = span;
  const goTo = (to: number) => dispatch(moved({ frame: within(span, Math.round(to)) }));

  const setLoop = (from: number, to: number) =>
    dispatch(
      moved({ loop: from === first && to === last ? null : { from: Math.min(from, to), to: Math.max(from, to) } }),
    );
  useCommands({
    play: { run: () => dispatch(playToggled()), isOn: playing },
    frameBack: { run: () => goTo(frame - 1) },
    frameOn: { run: () => goTo(frame + 1) },
    framesBack: { run: () => goTo(frame - 10) },
    framesOn: { run: () => goTo(frame + 10) },
    firstFrame: { run: () => goTo(first) },
    lastFrame: { run: () => goTo(last) },
    loopFrom: { run: () => setLoop(frame, Math.max(loop?.to ?? last, frame)) },
    loopTo: { run: () => setLoop(Math.min(loop?.from ?? first, frame), frame) },
    loopOff: { run: () => dispatch(moved({ loop: null })), cannot: loop ? undefined : 'no loop' },
  });

  return (
    <>
      <div className="ruler">
        <KeyTip id="firstFrame" title="First frame">
          <Button size="small" type="text" aria-label="First frame" onClick={() => goTo(first)}>
            <ChevronFirst size={16} />
          </Button>
        </KeyTip>
        <KeyTip id="play" title={playing ? 'Pause' : 'Play'}>
          <Button
            size="small"
            type={playing ? 'primary' : 'default'}
            aria-label={playing ? 'Pause' : 'Play'}
            onClick={() => dispatch(playToggled())}
          >
            {playing ? <Pause size={15} /> : <Play size={15} />}
          </Button>
        </KeyTip>
        <KeyTip id="lastFrame" title="Last frame">
          <Button size="small" type="text" aria-label="Last frame" onClick={() => goTo(last)}>
            <ChevronLast size={16} />
          </Button>
        </KeyTip>
        <Tooltip title={loop ? `Loop of frames ${loop.from}–${loop.to}` : 'Loop: from here on, to the end'}>
          <Button
            size="small"
            type={loop ? 'primary' : 'text'}
            aria-label="Loop"
            aria-pressed={Boolean(loop)}
            onClick={() => dispatch(moved({ loop: loop ? null : { from: frame, to: last } }))}
          >
            <Repeat size={15} />
          </Button>
        </Tooltip>
        <FrameSlider span={span} noted={noted} />
        <FrameText span={span} own={media.fps.num / media.fps.den} />
      </div>
      {(lanes.length > 0 || strips.length > 0) && (
        <Suspense fallback={null}>
          <KeyframeLanes lanes={lanes} strips={strips} span={span} />
        </Suspense>
      )}
    </>
  );
}

/** The frames of the shot in a row: a press or a drag goes there. */
function FrameSlider({ span, noted }: { span: Span; noted: readonly number[] }) {
  const { frame } = useFrameInSight({ span });
  const loop = useAppSelector((s) => s.where.loop);
  const canvas = useRef<HTMLCanvasElement>(null);
  const { from: first, to: last } = span;
  const count = frameCount(span);
  useDrawn(canvas, (c) => drawRuler(c, { first, frames: count, frame, loop, noted }), [
    frame,
    first,
    count,
    loop,
    noted,
  ]);
  const scrub = (e: PointerEvent<HTMLCanvasElement>) => {
    if (e.type === 'pointermove' && e.buttons !== 1) return;
    const box = e.currentTarget.getBoundingClientRect();
    passFrame(within(span, first + Math.floor(((e.clientX - box.left) / box.width) * count)));
  };
  return (
    <canvas
      ref={canvas}
      role="slider"
      tabIndex={0}
      aria-label="Frame"
      aria-valuemin={first}
      aria-valuemax={last}
      aria-valuenow={frame}
      onPointerDown={(e) => {
        e.currentTarget.setPointerCapture(e.pointerId);
        scrub(e);
      }}
      onPointerMove={scrub}
      onLostPointerCapture={restOnFrame}
    />
  );
}

/** The frame in sight, and the rate: the footage's own, and the one it plays at. */
function FrameText({ span, own }: { span: Span; own: number }) {
  const { frame } = useFrameInSight({ span });
  const fps = useFeed(rateFeed);
  return (
    <span className="mono" style={{ width: 150, textAlign: 'right' }}>
      frame {frame} / {span.to}
      <br />
      <span className="quiet">
        {fps === undefined ? `${+own.toFixed(3)} fps` : `${fps.toFixed(1)} of ${+own.toFixed(3)} fps`}
      </span>
    </span>
  );
}
