import { useEffect, useRef, type RefObject } from 'react';
import { useAppSelector } from '../app/store.ts';
import type { ToolName } from '../view/handSlice.ts';
import type { FrameViewer } from './FrameViewer.ts';
import { ShapeTool } from './tools/shapeTool.ts';
import { StrokeTool } from './tools/strokeTool.ts';
import { TOOL_TABLE } from './toolTable.tsx';
import type { ViewerTool } from './tools/tool.ts';
import type { ViewerWork } from './viewerWork.ts';

function toolFor(name: ToolName, latest: RefObject<ViewerWork | undefined>) {
  if (!latest.current || name === 'hand') return undefined;
  const { make } = TOOL_TABLE[name];
  if (make) return make(() => latest.current);
  const { shape, strokes, strokeAt, strokeWork } = latest.current;
  if (shape) return new ShapeTool(shape, (...event) => latest.current?.shapeChanged(...event));
  if (!strokeWork) return undefined;
  return new StrokeTool(strokes ?? [], strokeAt, {
    chosen: (at) => latest.current?.strokeWork?.chosen(at),
    changed: (...event) => latest.current?.strokeWork?.changed(...event),
  });
}

/** Puts the chosen tool on the picture, and keeps what it holds and what lies round it as they are in the document. */
export function useTool(viewer: RefObject<FrameViewer | undefined>, work: ViewerWork | undefined): void {
  const name = useAppSelector((s) => s.hand.tool);
  const latest = useRef(work);
  const made = useRef<ViewerTool | undefined>(undefined);
  const isWorking = work !== undefined;
  // the tool that adjusts lives as long as what it holds is the same thing
  const shapeIs = work?.shape ? `${work.shapeOf ?? ''} ${work.shape.geometry.form}` : work?.strokeWork && 'strokes';
  const heldIs = name === 'select' ? shapeIs : undefined;
  useEffect(() => {
    latest.current = work;
  });
  useEffect(() => {
    const tool = toolFor(name, latest);
    made.current = tool;
    viewer.current?.setTool(tool);
  }, [viewer, name, heldIs, isWorking]);
  const { shape, dots, outlines, strokes, strokeAt } = work ?? {};
  useEffect(() => {
    const tool = made.current;
    if (shape && tool instanceof ShapeTool) tool.sync(shape);
    if (tool instanceof StrokeTool) tool.sync(strokes ?? [], strokeAt);
    viewer.current?.setOver({ dots: dots ?? [], outlines: outlines ?? [], strokes: strokes ?? [] });
  }, [viewer, shape, dots, outlines, strokes, strokeAt]);
}
