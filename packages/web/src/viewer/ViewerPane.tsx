import { Button, Segmented, Tooltip } from 'antd';
import { Circle, Hand, Maximize, MousePointer2, Pipette, Spline, Square } from 'lucide-react';
import { useEffect, useMemo, useRef, useState, type ReactNode } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';
import type { Geometry } from '@mellow/contract';
import { useAppDispatch, useAppSelector, store } from '../app/store.ts';
import { rendersOfShot, type InHand } from '../app/useProject.ts';
import { measuredLive, placeChanged, sourceHeld, toolChosen, VIEWS, type Tool } from '../app/viewSlice.ts';
import { frameClient, frameUrl } from '../engine/frameClient.ts';
import type { Show } from '../engine/frameProtocol.ts';
import { FrameRuler } from './FrameRuler.tsx';
import { FrameViewer, type Dot } from './FrameViewer.ts';
import { BoxTool } from './tools/boxTool.ts';
import { PickTool } from './tools/pickTool.ts';
import { ShapeTool } from './tools/shapeTool.ts';
import { SplineTool } from './tools/splineTool.ts';
import type { GeometryEvent } from './tools/tool.ts';

/** What a stage lets the user do on the picture. Without it the picture can only be looked at. */
export interface ViewerWork {
  picked: (sign: 'add' | 'remove', rect: { x0: number; y0: number; x1: number; y1: number }) => void;
  drawn: (geometry: Geometry) => void;
  shape: Geometry | undefined;
  shapeChanged: GeometryEvent;
  dots: readonly Dot[];
}
const TOOL_BUTTONS: { tool: Tool; label: string; icon: ReactNode }[] = [
  { tool: 'select', label: 'Adjust shape (V)', icon: <MousePointer2 size={15} /> },
  { tool: 'pick-add', label: 'Pick a colour to add (A)', icon: <><Pipette size={15} />+</> },
  { tool: 'pick-remove', label: 'Pick a colour to remove (D)', icon: <><Pipette size={15} />−</> },
  { tool: 'rectangle', label: 'Rectangle (R)', icon: <Square size={15} /> },
  { tool: 'ellipse', label: 'Ellipse (E)', icon: <Circle size={15} /> },
  { tool: 'spline', label: 'Spline (S): click or drag points, click the first to close', icon: <Spline size={15} /> },
  { tool: 'hand', label: 'Move the view (H), or drag with Space held', icon: <Hand size={15} /> },
];
const HOTKEYS: Record<string, Tool> = { v: 'select', a: 'pick-add', d: 'pick-remove', r: 'rectangle', e: 'ellipse', s: 'spline', h: 'hand' };

export function ViewerPane({ inHand, work }: { inHand: InHand; work?: ViewerWork }) {
  const { document, shot, media, piece, colourwayId } = inHand;
  const dispatch = useAppDispatch();
  const place = useAppSelector((s) => s.view.place);
  const tool = useAppSelector((s) => s.view.tool);
  const held = useAppSelector((s) => s.view.holdSource);
  const moving = useAppSelector((s) => Boolean(s.view.draft.layers ?? s.view.draft.recipe));
  const recolouring = useAppSelector((s) => Boolean(s.view.draft.recipe));
  const canvas = useRef<HTMLCanvasElement>(null);
  const viewer = useRef<FrameViewer | undefined>(undefined);
  const [probe, setProbe] = useState<{ x: number; y: number } | undefined>();
  const [zoom, setZoom] = useState(1);
  const [message, setMessage] = useState<string>();

  useEffect(() => {
    const made = new FrameViewer(canvas.current!);
    made.onProbe = setProbe;
    made.onZoom = setZoom;
    viewer.current = made;
    return () => made.close();
  }, []);

  const frame = media ? Math.min(place.frame, media.frames - 1) : 0;
  // a tint adds its own colour to the picture: it steps aside while the colour moves
  const show: Show = held ? 'Source' : place.view === 'Tint' && recolouring ? 'Result' : place.view;
  const task = useMemo(() => {
    if (!shot || !media || document.proxies[media.id]?.state !== 'done') return undefined;
    const { sightings, index } = rendersOfShot(document, shot.id, colourwayId, piece?.id);
    return { kind: 'show' as const, frame: { url: frameUrl(media.id, frame), encoding: shot.encoding, fullWidth: media.width }, sightings, index, show, measure: index >= 0, step: 1 as const };
  }, [document, shot, media, colourwayId, piece?.id, frame, show]);

  useEffect(() => {
    if (!task || !media) {
      viewer.current?.clear();
      return;
    }
    const asked = performance.now();
    frameClient().show(task, (answer) => {
      if (answer instanceof Error) return setMessage(answer.message);
      setMessage(undefined);
      viewer.current?.show(answer.picture, media);
      performance.measure('mellow:shown', { start: asked });
      const m = answer.measured;
      store.dispatch(measuredLive(m ? { before: { meanLinear: m.before.meanLinear, lab: m.before.lab }, after: { meanLinear: m.after.meanLinear, lab: m.after.lab }, pixels: m.before.pixels } : null));
    });
  }, [task, media]);

  const shapeTool = useRef<ShapeTool | undefined>(undefined);
  const latestWork = useRef(work);
  latestWork.current = work;
  const shapeKey = work?.shape ? `${place.layerId} ${work.shape.form}` : undefined;
  useEffect(() => {
    const on = latestWork.current;
    shapeTool.current = undefined;
    const made = (geometry: Geometry) => latestWork.current?.drawn(geometry);
    const chosen = () => {
      if (!on || tool === 'hand') return undefined;
      if (tool === 'pick-add' || tool === 'pick-remove') return new PickTool((rect) => latestWork.current?.picked(tool === 'pick-add' ? 'add' : 'remove', rect));
      if (tool === 'rectangle' || tool === 'ellipse') return new BoxTool(tool, made);
      if (tool === 'spline') return new SplineTool(made);
      return on.shape ? (shapeTool.current = new ShapeTool(on.shape, (g, phase) => latestWork.current?.shapeChanged(g, phase))) : undefined;
    };
    viewer.current?.setTool(chosen());
  }, [tool, shapeKey, Boolean(work)]);
  useEffect(() => {
    if (work?.shape) shapeTool.current?.sync(work.shape);
    viewer.current?.setDots(work?.dots ?? []);
  }, [work?.shape, work?.dots]);

  useHotkeys(Object.keys(HOTKEYS).join(','), (e) => work && dispatch(toolChosen(HOTKEYS[e.key.toLowerCase()]!)), [work]);
  useHotkeys('enter', () => viewer.current?.key('Enter'));
  useHotkeys('escape', () => viewer.current?.key('Escape'));
  useHotkeys('q', () => dispatch(sourceHeld(true)), { keydown: true });
  useHotkeys('q', () => dispatch(sourceHeld(false)), { keyup: true, keydown: false });
  useHotkeys('f', () => viewer.current?.fit());
  useHotkeys('1,2,3,4', (e) => dispatch(placeChanged({ view: VIEWS[Number(e.key) - 1]! })));

  const proxies = media && document.proxies[media.id];
  const waiting = !shot
    ? 'No shot yet. Bring footage in at the Shots stage.'
    : proxies && proxies.state !== 'done'
      ? proxies.state === 'failed' ? `The proxies of ${shot.name} could not be made: ${proxies.message}` : `Proxies of ${shot.name} are being made: ${proxies.done} of ${proxies.total} frames.`
      : message;
  return (
    <div className="stage-view">
      <div className="viewerbar">
        {work && TOOL_BUTTONS.map((b) => (
          <Tooltip key={b.tool} title={b.label}>
            <Button size="small" aria-label={b.label} aria-pressed={tool === b.tool} type={tool === b.tool ? 'primary' : 'text'} onClick={() => dispatch(toolChosen(b.tool))}>{b.icon}</Button>
          </Tooltip>
        ))}
        <Segmented size="small" options={[...VIEWS]} value={place.view} onChange={(view) => dispatch(placeChanged({ view }))} aria-label="View" />
        <Tooltip title="Hold Q for the source"><Button size="small" type={held ? 'primary' : 'text'} onPointerDown={() => dispatch(sourceHeld(true))} onPointerUp={() => dispatch(sourceHeld(false))} onPointerLeave={() => dispatch(sourceHeld(false))}>Hold: source</Button></Tooltip>
        <span style={{ flex: 1 }} />
        <Tooltip title="Fit (F)"><Button size="small" type="text" aria-label="Fit" onClick={() => viewer.current?.fit()}><Maximize size={15} /></Button></Tooltip>
        <Button size="small" type="text" onClick={() => viewer.current?.zoomTo(1)}>1:1</Button>
        <span className="mono quiet" style={{ width: 48, textAlign: 'right' }}>{Math.round(zoom * 100)} %</span>
      </div>
      <div className="viewport">
        <canvas ref={canvas} role="img" aria-label={shot ? `${shot.name}, frame ${frame}, ${show}` : 'No picture'} data-view={show} />
        {waiting && <div className="message">{waiting}</div>}
        {moving && <span className="note" style={{ left: 'auto', right: 12 }}>live</span>}
        {probe && <span className="note">x {probe.x.toFixed(1)}  y {probe.y.toFixed(1)}</span>}
      </div>
      {media && shot && <FrameRuler media={media} />}
    </div>
  );
}
