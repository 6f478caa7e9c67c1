import { Button, Segmented, Tooltip } from 'antd';
import { Blend, Circle, Hand, Maximize, MousePointer2, Pipette, Signature, Spline, Square } from 'lucide-react';
import { useEffect, useMemo, useRef, useState, type ReactNode } from 'react';
import { useKeys } from '../ui/useKeys.ts';
import type { Geometry, Stroke } from '@mellow/contract';
import { layerAt, motionAt } from '@mellow/core';
import { useAppDispatch, useAppSelector, store } from '../app/store.ts';
import { momentAt, type InHand } from '../app/useProject.ts';
import { measuredLive, placeChanged, probed, sourceHeld, toolChosen, VIEWS, type Tool } from '../app/viewSlice.ts';
import { frameClient } from '../engine/frameClient.ts';
import type { ProbeAnswer, Show, ShowTask } from '../engine/frameProtocol.ts';
import { CompareBar } from './CompareBar.tsx';
import { FrameRuler } from './FrameRuler.tsx';
import { FrameViewer, type Dot, type Outline } from './FrameViewer.ts';
import type { Lane, Strip } from './lanes.ts';
import { usePlayback } from './usePlayback.ts';
import { ProbeNote } from './ProbeNote.tsx';
import { BoxTool } from './tools/boxTool.ts';
import { GradientTool } from './tools/gradientTool.ts';
import { PickTool } from './tools/pickTool.ts';
import { ScribbleTool } from './tools/scribbleTool.ts';
import { ShapeTool } from './tools/shapeTool.ts';
import { SplineTool } from './tools/splineTool.ts';
import type { Shape, ShapeEvent } from './tools/tool.ts';

/** What a stage lets the user do on the picture. Without it the picture can only be looked at. */
export interface ViewerWork {
  picked: (sign: 'add' | 'remove', rect: { x0: number; y0: number; x1: number; y1: number }) => void;
  drawn: (geometry: Geometry) => void;
  scribbled: (stroke: Stroke) => void;
  strokes?: readonly Stroke[];
  shape: Shape | undefined;
  shapeChanged: ShapeEvent;
  dots: readonly Dot[];
  dotMoved: (index: number, to: { x: number; y: number }) => void;
  outlines?: readonly Outline[];
  /** Names what `shape` is of, so that the tool starts anew when it changes. */
  shapeOf?: string | undefined;
}
interface Props {
  inHand: InHand;
  work?: ViewerWork;
  lanes?: readonly Lane[];
  strips?: readonly Strip[];
}
const TOOL_BUTTONS: { tool: Tool; label: string; icon: ReactNode }[] = [
  {
    tool: 'select',
    label:
      'Adjust shape (V): drag handles, click the path for a point, double-click a point for corner or smooth, Alt-drag a side to shear',
    icon: <MousePointer2 size={15} />,
  },
  {
    tool: 'pick-add',
    label: 'Pick a colour to add (A)',
    icon: (
      <>
        <Pipette size={15} />+
      </>
    ),
  },
  {
    tool: 'pick-remove',
    label: 'Pick a colour to remove (D)',
    icon: (
      <>
        <Pipette size={15} />−
      </>
    ),
  },
  { tool: 'rectangle', label: 'Rectangle (R)', icon: <Square size={15} /> },
  { tool: 'ellipse', label: 'Ellipse (E)', icon: <Circle size={15} /> },
  { tool: 'spline', label: 'Spline (S): click or drag points, click the first to close', icon: <Spline size={15} /> },
  { tool: 'gradient', label: 'Gradient (B): drag from full to nothing', icon: <Blend size={15} /> },
  {
    tool: 'scribble-in',
    label: 'Scribble over what is in (C)',
    icon: (
      <>
        <Signature size={15} />+
      </>
    ),
  },
  {
    tool: 'scribble-out',
    label: 'Scribble over what is out (X)',
    icon: (
      <>
        <Signature size={15} />−
      </>
    ),
  },
  { tool: 'hand', label: 'Move the view (H), or drag with Space held', icon: <Hand size={15} /> },
];
const HOTKEYS: Record<string, Tool> = {
  v: 'select',
  a: 'pick-add',
  d: 'pick-remove',
  r: 'rectangle',
  e: 'ellipse',
  s: 'spline',
  b: 'gradient',
  c: 'scribble-in',
  x: 'scribble-out',
  h: 'hand',
};

function memoised<V>(make: (at: number) => V): (at: number) => V {
  const made = new Map<number, V>();
  return (at) => {
    if (!made.has(at)) made.set(at, make(at));
    return made.get(at)!;
  };
}

export function ViewerPane({ inHand, work, lanes, strips }: Props) {
  const { document, shot, media, piece, colourwayId, sighting, motions } = inHand;
  const playing = useAppSelector((s) => s.view.playing);
  const dispatch = useAppDispatch();
  const place = useAppSelector((s) => s.view.place);
  const tool = useAppSelector((s) => s.view.tool);
  const held = useAppSelector((s) => s.view.holdSource);
  const near = useAppSelector((s) => s.view.near);
  const keysChosen = useAppSelector((s) => s.view.keysChosen.length);
  const moving = useAppSelector((s) => Object.keys(s.view.draft).length > 0);
  // a matte that is being changed is shown without the frames around it: quicker; a colour that is changed leaves it steady
  const steady = useAppSelector((s) => !s.view.draft.sighting && !s.view.draft.track && !s.view.draft.balance);
  const recolouring = useAppSelector((s) => Boolean(s.view.draft.recipe));
  const canvas = useRef<HTMLCanvasElement>(null);
  const viewer = useRef<FrameViewer | undefined>(undefined);
  const [at, setAt] = useState<{ x: number; y: number } | undefined>();
  const [probe, setProbe] = useState<ProbeAnswer>();
  const [zoom, setZoom] = useState(1);
  const [message, setMessage] = useState<string>();
  const latestWork = useRef(work);
  latestWork.current = work;

  useEffect(() => {
    const made = new FrameViewer(canvas.current!);
    made.onProbe = setAt;
    made.onZoom = setZoom;
    made.onWipe = (wipe) => store.dispatch(placeChanged({ wipe }));
    made.onDotMoved = (index, to) => latestWork.current?.dotMoved(index, to);
    viewer.current = made;
    return () => made.close();
  }, []);

  const frame = media ? Math.min(place.frame, media.frames - 1) : 0;
  // a tint adds its own colour to the picture: it steps aside while the colour moves
  const show: Show = held ? 'Source' : place.view === 'Tint' && recolouring ? 'Result' : place.view;
  const soloed = sighting?.layers.find((l) => l.id === place.soloId);
  const comparing = place.compare !== 'off' && !held;
  // a frame's task is put together once for as long as what it depends on stays
  const taskAt = useMemo(
    () =>
      memoised((at: number): ShowTask | undefined => {
        if (!shot || !media || document.proxies[media.id]?.state !== 'done') return undefined;
        const moment = momentAt(document, shot, media, colourwayId, piece?.id, at, motions, steady);
        return {
          kind: 'show',
          ...moment,
          show,
          solo: soloed && layerAt(soloed, at, motions),
          tint: place.tint,
          ground: place.ground,
          measure: moment.index >= 0 && !playing,
          withSource: comparing,
          near: near ?? undefined,
          step: 1,
        };
      }),
    [
      document,
      shot,
      media,
      colourwayId,
      piece?.id,
      show,
      steady,
      soloed,
      motions,
      place.tint,
      place.ground,
      comparing,
      near,
      playing,
    ],
  );
  const task = useMemo(() => taskAt(frame), [taskAt, frame]);
  const fps = usePlayback(media, taskAt);

  useEffect(() => {
    if (!task || !media) {
      viewer.current?.clear();
      return;
    }
    const asked = performance.now();
    const shownFrame = frame;
    frameClient().show(task, (answer) => {
      if (answer instanceof Error) return setMessage(answer.message);
      setMessage(undefined);
      viewer.current?.show(answer.picture, media, answer.source);
      if (canvas.current) canvas.current.dataset.frame = String(shownFrame);
      performance.measure('mellow:shown', { start: asked });
      // numbers that change with every frame cannot be read: they come when it stops
      if (store.getState().view.playing) return;
      const m = answer.measured;
      store.dispatch(
        measuredLive(
          m
            ? {
                before: { meanLinear: m.before.meanLinear, lab: m.before.lab },
                after: { meanLinear: m.after.meanLinear, lab: m.after.lab },
                pixels: m.before.pixels,
              }
            : null,
        ),
      );
    });
  }, [task, media, playing]);
  useEffect(
    () => viewer.current?.setCompare(held ? 'off' : place.compare, place.wipe),
    [place.compare, place.wipe, held],
  );
  useEffect(() => viewer.current?.setLift(place.liftStops), [place.liftStops]);

  const latestTask = useRef(task);
  latestTask.current = task;
  // the probe follows the pointer, one question at a time
  const asking = useRef(false);
  const wanted = useRef(at);
  wanted.current = at;
  useEffect(() => {
    if (!at || !task) {
      setProbe(undefined);
      store.dispatch(probed(null));
      return;
    }
    if (asking.current) return;
    asking.current = true;
    const ask = async () => {
      for (let place_ = wanted.current; place_;) {
        const answer = await frameClient()
          .askLead({ kind: 'probe', ...place_, task: latestTask.current! })
          .catch(() => null);
        setProbe(answer ?? undefined);
        store.dispatch(probed(answer?.oklab ?? null));
        if (wanted.current === place_) break;
        place_ = wanted.current;
      }
      asking.current = false;
    };
    void ask();
  }, [at, task]);

  const shapeTool = useRef<ShapeTool | undefined>(undefined);
  const shapeKey = work?.shape ? `${work.shapeOf ?? place.layerId} ${work.shape.geometry.form}` : undefined;
  useEffect(() => {
    const on = latestWork.current;
    shapeTool.current = undefined;
    const made = (geometry: Geometry) => latestWork.current?.drawn(geometry);
    const chosen = () => {
      if (!on || tool === 'hand') return undefined;
      if (tool === 'pick-add' || tool === 'pick-remove')
        return new PickTool((rect) => latestWork.current?.picked(tool === 'pick-add' ? 'add' : 'remove', rect));
      if (tool === 'rectangle' || tool === 'ellipse') return new BoxTool(tool, made);
      if (tool === 'spline') return new SplineTool(made);
      if (tool === 'scribble-in' || tool === 'scribble-out')
        return new ScribbleTool(tool === 'scribble-in' ? 'in' : 'out', (stroke) =>
          latestWork.current?.scribbled(stroke),
        );
      if (tool === 'gradient') return new GradientTool(made);
      return on.shape
        ? (shapeTool.current = new ShapeTool(on.shape, (shape, phase, what) =>
            latestWork.current?.shapeChanged(shape, phase, what),
          ))
        : undefined;
    };
    viewer.current?.setTool(chosen());
  }, [tool, shapeKey, Boolean(work)]);
  useEffect(() => {
    if (work?.shape) shapeTool.current?.sync(work.shape);
    viewer.current?.setDots(work?.dots ?? []);
    viewer.current?.setOutlines(work?.outlines ?? []);
    viewer.current?.setStrokes(work?.strokes ?? []);
  }, [work?.shape, work?.dots, work?.outlines, work?.strokes]);
  const heldTrack = place.holdTrack && place.trackId ? motions.get(place.trackId) : undefined;
  useEffect(() => {
    if (!heldTrack) return viewer.current?.hold(undefined, [0, 0]);
    const [a, , c] = heldTrack.quad;
    viewer.current?.hold(motionAt(heldTrack, frame).motion, [(a[0] + c[0]) / 2, (a[1] + c[1]) / 2]);
  }, [heldTrack, frame]);

  useKeys(Object.keys(HOTKEYS).join(','), (e) => work && dispatch(toolChosen(HOTKEYS[e.key.toLowerCase()]!)), [work]);
  useKeys('enter', () => void viewer.current?.key('Enter'));
  useKeys('escape', () => void viewer.current?.key('Escape'));
  useKeys('delete,backspace', () => void (keysChosen === 0 && viewer.current?.key('Delete')), [keysChosen]);
  useKeys('g', () => viewer.current?.setGhosted(true), [], { keydown: true });
  useKeys('g', () => viewer.current?.setGhosted(false), [], { keyup: true, keydown: false });
  useKeys('q', () => dispatch(sourceHeld(true)), [], { keydown: true });
  useKeys('q', () => dispatch(sourceHeld(false)), [], { keyup: true, keydown: false });
  useKeys('f', () => viewer.current?.fit());
  useKeys('w', () => dispatch(placeChanged({ compare: place.compare === 'wipe' ? 'off' : 'wipe' })), [place.compare]);
  useKeys(VIEWS.map((_, i) => String(i + 1)).join(','), (e) =>
    dispatch(placeChanged({ view: VIEWS[Number(e.key) - 1]! })),
  );

  /** Arrow keys on the picture nudge the shape in hand; without one they go on to the frame ruler. */
  const nudge = (e: React.KeyboardEvent) => {
    const way = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[e.key];
    const step = e.shiftKey ? 10 : e.altKey ? 0.1 : 1;
    if (way && viewer.current?.nudge(way[0]! * step, way[1]! * step)) {
      e.preventDefault();
      e.nativeEvent.stopImmediatePropagation();
    }
  };

  const proxies = media && document.proxies[media.id];
  const waiting = !shot
    ? 'No shot yet. Bring footage in at the Shots stage.'
    : proxies && proxies.state !== 'done'
      ? proxies.state === 'failed'
        ? `The proxies of ${shot.name} could not be made: ${proxies.message}`
        : `Proxies of ${shot.name} are being made: ${proxies.done} of ${proxies.total} frames.`
      : message;
  return (
    <div className="stage-view">
      <div className="viewerbar">
        {work &&
          TOOL_BUTTONS.map((b) => (
            <Tooltip key={b.tool} title={b.label}>
              <Button
                size="small"
                aria-label={b.label}
                aria-pressed={tool === b.tool}
                type={tool === b.tool ? 'primary' : 'text'}
                onClick={() => dispatch(toolChosen(b.tool))}
              >
                {b.icon}
              </Button>
            </Tooltip>
          ))}
        <Segmented
          size="small"
          options={[...VIEWS]}
          value={place.view}
          onChange={(view) => dispatch(placeChanged({ view }))}
          aria-label="View"
        />
        <CompareBar />
        <span style={{ flex: 1 }} />
        <Tooltip title="Fit (F)">
          <Button size="small" type="text" aria-label="Fit" onClick={() => viewer.current?.fit()}>
            <Maximize size={15} />
          </Button>
        </Tooltip>
        <Button size="small" type="text" onClick={() => viewer.current?.zoomTo(1)}>
          1:1
        </Button>
        <span className="mono quiet" style={{ width: 48, textAlign: 'right' }}>
          {Math.round(zoom * 100)} %
        </span>
      </div>
      <div className="viewport">
        <canvas
          ref={canvas}
          tabIndex={0}
          role="img"
          aria-label={shot ? `${shot.name}, frame ${frame}, ${show}` : 'No picture'}
          data-view={show}
          onKeyDown={nudge}
        />
        {waiting && <div className="message">{waiting}</div>}
        <span
          className="note"
          style={{ left: 'auto', right: 12 }}
          hidden={!moving && !soloed && !heldTrack && place.liftStops === 0}
        >
          {[
            heldTrack && 'track held still',
            moving && 'live',
            soloed && `only ${soloed.name}`,
            place.liftStops !== 0 && `view ${place.liftStops > 0 ? '+' : ''}${place.liftStops.toFixed(1)} stops`,
          ]
            .filter(Boolean)
            .join(' · ')}
        </span>
        {at && media && <ProbeNote at={at} probe={probe} scale={Math.min(1, 960 / media.width)} />}
      </div>
      {media && shot && <FrameRuler media={media} fps={fps} lanes={lanes ?? []} strips={strips ?? []} />}
    </div>
  );
}
