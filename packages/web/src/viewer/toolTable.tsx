// The tools: what each is called, its key, and what it makes of the pointer.
import type { Geometry, Stroke } from '@mellow/contract';
import { Blend, Brush, Circle, Hand, MousePointer2, Pipette, Signature, Spline, Square } from 'lucide-react';
import type { ReactNode } from 'react';
import type { CommandId } from '../keys/keyTable.ts';
import type { ToolName } from '../view/handSlice.ts';
import type { PaintSign, Passage } from '../commands/painting.ts';
import { REACH } from '../commands/strokes.ts';
import { BoxTool } from './tools/boxTool.ts';
import { BrushTool } from './tools/brushTool.ts';
import { GradientTool } from './tools/gradientTool.ts';
import { GrowTool } from './tools/growTool.ts';
import { PickTool } from './tools/pickTool.ts';
import { ScribbleTool } from './tools/scribbleTool.ts';
import { SplineTool } from './tools/splineTool.ts';
import type { ViewerTool } from './tools/tool.ts';

/** What tools do to the document. */
export interface ToolWork {
  picked: (sign: 'add' | 'remove', rect: { x0: number; y0: number; x1: number; y1: number }) => void;
  drawn: (geometry: Geometry) => void;
  scribbled: (stroke: Stroke) => void;
  /** Has what a click selected grow by a factor; true when there is such a thing. */
  grown: (factor: number) => boolean;
  /** The diameter of the brush, full-resolution pixels. */
  brushPx: () => number;
  painted: (sign: PaintSign, points: Passage) => void;
}
export interface ToolEntry {
  label: string;
  /** How it is used, where its name does not say. */
  help?: string;
  command: CommandId;
  icon: ReactNode;
  /** Of what its button in the bar says that it is at work, where that is not it alone; none: it has no button. */
  standsFor?: readonly ToolName[];
  /** Undefined: the tool works on a shape in hand, or moves the view. `work` is asked when it is due. */
  make?: (work: () => ToolWork | undefined) => ViewerTool;
}
const signed = (icon: ReactNode, sign: string): ReactNode => (
  <>
    {icon}
    {sign}
  </>
);
const SIZE = 15;
const brushTool = (sign: PaintSign, work: () => ToolWork | undefined) =>
  new BrushTool(
    sign,
    () => work()?.brushPx() ?? 1,
    (points) => work()?.painted(sign, points),
  );

export const TOOL_TABLE: Record<ToolName, ToolEntry> = {
  select: {
    label: 'Adjust shape',
    help:
      'drag handles, click the path for a point, double-click a point for corner or smooth, ' +
      'Alt-drag a side to shear',
    command: 'toolSelect',
    icon: <MousePointer2 size={SIZE} />,
  },
  'pick-add': {
    label: 'Pick a colour to add',
    command: 'toolPickAdd',
    icon: signed(<Pipette size={SIZE} />, '+'),
    make: (work) => new PickTool((rect) => work()?.picked('add', rect)),
  },
  'pick-remove': {
    label: 'Pick a colour to remove',
    command: 'toolPickRemove',
    icon: signed(<Pipette size={SIZE} />, '−'),
    make: (work) => new PickTool((rect) => work()?.picked('remove', rect)),
  },
  rectangle: {
    label: 'Rectangle',
    command: 'toolRectangle',
    icon: <Square size={SIZE} />,
    make: (work) => new BoxTool('rectangle', (geometry) => work()?.drawn(geometry)),
  },
  ellipse: {
    label: 'Ellipse',
    command: 'toolEllipse',
    icon: <Circle size={SIZE} />,
    make: (work) => new BoxTool('ellipse', (geometry) => work()?.drawn(geometry)),
  },
  spline: {
    label: 'Spline',
    help: 'click or drag points, click the first to close',
    command: 'toolSpline',
    icon: <Spline size={SIZE} />,
    make: (work) => new SplineTool((geometry) => work()?.drawn(geometry)),
  },
  gradient: {
    label: 'Gradient',
    help: 'drag from full to nothing',
    command: 'toolGradient',
    icon: <Blend size={SIZE} />,
    make: (work) => new GradientTool((geometry) => work()?.drawn(geometry)),
  },
  'scribble-in': {
    label: 'Scribble over what is in',
    command: 'toolScribbleIn',
    icon: signed(<Signature size={SIZE} />, '+'),
    standsFor: ['scribble-in', 'scribble-around', 'scribble-grow'],
    make: (work) => new ScribbleTool('in', (stroke) => work()?.scribbled(stroke)),
  },
  'scribble-out': {
    label: 'Scribble over what is out',
    command: 'toolScribbleOut',
    icon: signed(<Signature size={SIZE} />, '−'),
    standsFor: ['scribble-out', 'scribble-unsure'],
    make: (work) => new ScribbleTool('out', (stroke) => work()?.scribbled(stroke)),
  },
  'scribble-unsure': {
    label: 'Scribble over what is partly in',
    help: 'hair, smoke, glass: how much of each pixel is found out from the picture',
    command: 'toolScribbleUnsure',
    icon: <Signature size={SIZE} />,
    standsFor: [],
    make: (work) => new ScribbleTool('unsure', (stroke) => work()?.scribbled(stroke)),
  },
  'scribble-around': {
    label: 'Draw round what is to be selected',
    help: 'loosely; Shift for a box',
    command: 'toolScribbleAround',
    icon: <Signature size={SIZE} />,
    standsFor: [],
    make: (work) => new ScribbleTool('around', (stroke) => work()?.scribbled(stroke)),
  },
  'scribble-grow': {
    label: 'Click to select, wheel for more or less',
    command: 'toolScribbleGrow',
    icon: <Signature size={SIZE} />,
    standsFor: [],
    make: (work) =>
      new GrowTool(
        REACH.first,
        (stroke) => work()?.scribbled(stroke),
        (factor) => work()?.grown(factor) ?? false,
      ),
  },
  'brush-in': {
    label: 'Paint in',
    help: 'Shift for a straight line, − and = for its size',
    command: 'toolBrushIn',
    icon: <Brush size={SIZE} />,
    standsFor: ['brush-in', 'brush-out', 'brush-smooth'],
    make: (work) => brushTool('in', work),
  },
  'brush-out': {
    label: 'Paint out',
    help: 'Shift for a straight line, − and = for its size',
    command: 'toolBrushOut',
    icon: <Brush size={SIZE} />,
    standsFor: [],
    make: (work) => brushTool('out', work),
  },
  'brush-smooth': {
    label: 'Paint smooth',
    help: 'smooths the edge of what was painted',
    command: 'toolBrushSmooth',
    icon: <Brush size={SIZE} />,
    standsFor: [],
    make: (work) => brushTool('smooth', work),
  },
  hand: { label: 'Move the view', help: 'or drag with Space held', command: 'toolHand', icon: <Hand size={SIZE} /> },
};
