import type { Stroke } from '@mellow/contract';
import type { ToolName } from '../view/handSlice.ts';
import type { Dot, Outline } from './overlays.ts';
import type { Shape, ShapeEvent } from './tools/tool.ts';
import type { ToolWork } from './toolTable.tsx';

/** What a stage lets the user do on the picture. Without it the picture can only be looked at. */
export interface ViewerWork extends ToolWork {
  /** The tools that there is work for; left out: all. */
  tools?: readonly ToolName[];
  shape: Shape | undefined;
  /** Names what `shape` is of, so that the tool starts anew when it changes. */
  shapeOf?: string | undefined;
  shapeChanged: ShapeEvent;
  dots: readonly Dot[];
  dotMoved: (index: number, to: { x: number; y: number }) => void;
  outlines?: readonly Outline[];
  /** What is seen of it on another frame, while frames pass. */
  outlinesAt?: (frame: number) => Outline[];
  strokes?: readonly Stroke[];
}

/** Work that is a pick and nothing else. */
export const workByPicking = (picked: ViewerWork['picked']): ViewerWork => ({
  tools: ['pick-add', 'hand'],
  picked,
  drawn: () => undefined,
  scribbled: () => undefined,
  brushPx: () => 1,
  painted: () => undefined,
  shape: undefined,
  shapeChanged: () => undefined,
  dots: [],
  dotMoved: () => undefined,
});
