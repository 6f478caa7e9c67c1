import { useEffect, useRef, type RefObject } from 'react';
import { useAppSelector } from '../app/store.ts';
import type { ToolName } from '../view/handSlice.ts';
import type { FrameViewer } from './FrameViewer.ts';
import { ShapeTool } from './tools/shapeTool.ts';
import { TOOL_TABLE } from './toolTable.tsx';
import type { ViewerWork } from './viewerWork.ts';

function toolFor(name: ToolName, latest: RefObject<ViewerWork | undefined>) {
  if (!latest.current || name === 'hand') return undefined;
  const { make } = TOOL_TABLE[name];
  if (make) return make(() => latest.current);
  const { shape } = latest.current;
  return shape && new ShapeTool(shape, (...event) => latest.current?.shapeChanged(...event));
}

/** Puts the chosen tool on the picture, and keeps what it holds and what lies round it as they are in the document. */
export function useTool(viewer: RefObject<FrameViewer | undefined>, work: ViewerWork | undefined): void {
  const name = useAppSelector((s) => s.hand.tool);
  const latest = useRef(work);
  const shapeTool = useRef<ShapeTool | undefined>(undefined);
  const isWorking = work !== undefined;
  // a tool lives as long as the thing it holds is the same thing
  const shapeIs = work?.shape && `${work.shapeOf ?? ''} ${work.shape.geometry.form}`;
  useEffect(() => {
    latest.current = work;
  });
  useEffect(() => {
    const tool = toolFor(name, latest);
    shapeTool.current = tool instanceof ShapeTool ? tool : undefined;
    viewer.current?.setTool(tool);
  }, [viewer, name, shapeIs, isWorking]);
  const { shape, dots, outlines, strokes } = work ?? {};
  useEffect(() => {
    if (shape) shapeTool.current?.sync(shape);
    viewer.current?.setOver({ dots: dots ?? [], outlines: outlines ?? [], strokes: strokes ?? [] });
  }, [viewer, shape, dots, outlines, strokes]);
}
