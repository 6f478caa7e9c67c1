import type { StrokeHere } from '../commands/strokes.ts';
import type { ToolName } from '../view/handSlice.ts';
import type { Dot, Outline } from './overlays.ts';
import type { StrokeWork } from './tools/strokeTool.ts';
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
  /** Of a scribble in hand, as they lie on this frame, and which of them is chosen. */
  strokes?: readonly StrokeHere[];
  strokeAt?: number | undefined;
  /** What the hand does to them; left out: they are only shown. */
  strokeWork?: StrokeWork | undefined;
}

/** Work that is a pick and nothing else. */
export const workByPicking = (picked: ViewerWork['picked']): ViewerWork => ({
  tools: ['pick-add', 'hand'],
  picked,
  drawn: () => undefined,
  scribbled: () => undefined,
  grown: () => false,
  brushPx: () => 1,
  painted: () => undefined,
  shape: undefined,
  shapeChanged: () => undefined,
  dots: [],
  dotMoved: () => undefined,
});
