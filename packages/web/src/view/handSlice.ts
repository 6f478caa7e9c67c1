import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import type { Layer } from '@mellow/contract';
import type { Brush } from '../commands/painting.ts';
import { shotLeft } from './shotLeft.ts';

export const TOOLS = [
  'select',
  'pick-add',
  'pick-remove',
  'rectangle',
  'ellipse',
  'spline',
  'gradient',
  'scribble-in',
  'scribble-out',
  'scribble-unsure',
  'scribble-around',
  'scribble-grow',
  'brush-in',
  'brush-out',
  'brush-smooth',
  'hand',
] as const;
export type ToolName = (typeof TOOLS)[number];
/** What the next drawn shape becomes. */
export type DrawFor = 'layer' | 'track' | 'hold-out' | 'spill';

/** What a colour is picked from the picture for. */
export type PickFor = 'key' | 'patch' | 'neutral' | 'requirement' | 'balance';

/** Whose recolour is left out of the view, to judge it. */
export type RecolourOff = 'none' | 'piece' | 'all';

/** The brush until it is set, and where its numbers are reset to. */
export const FIRST_BRUSH: Brush = { widthPx: 40, softness: 0.3, flow: 1, on: 'this frame', run: { from: 0, to: 0 } };

/** What the hand holds: its tool, what it draws, what it has copied, whether it covers the result with the source. */
export const handSlice = createSlice({
  name: 'hand',
  initialState: {
    tool: 'select' as ToolName,
    drawFor: 'layer' as DrawFor,
    pickFor: 'key' as PickFor,
    clipboard: null as Layer | null,
    brush: FIRST_BRUSH,
    /** The stroke that is chosen, by its place in a scribble. */
    stroke: null as { layerId: string; at: number } | null,
    sourceHeld: false,
    recolourOff: 'none' as RecolourOff,
  },
  reducers: {
    toolChosen(state, { payload }: PayloadAction<ToolName>) {
      state.tool = payload;
    },
    drawingFor(state, { payload }: PayloadAction<DrawFor>) {
      state.drawFor = payload;
    },
    /** The next pick in the picture is for this; the pick tool is taken for it. */
    pickingFor(state, { payload }: PayloadAction<PickFor>) {
      if (state.pickFor === payload) return;
      state.pickFor = payload;
      state.tool = payload === 'key' ? 'select' : 'pick-add';
    },
    layerCopied(state, { payload }: PayloadAction<Layer>) {
      state.clipboard = payload;
    },
    /** Turns the recolour of the piece in hand, or of all pieces, off in the view; again: on. */
    recolourTurned(state, { payload }: PayloadAction<Exclude<RecolourOff, 'none'>>) {
      state.recolourOff = state.recolourOff === payload ? 'none' : payload;
    },
    brushSet(state, { payload }: PayloadAction<Partial<Brush>>) {
      Object.assign(state.brush, payload);
    },
    strokeChosen(state, { payload }: PayloadAction<{ layerId: string; at: number } | null>) {
      state.stroke = payload;
    },
    sourceHeld(state, { payload }: PayloadAction<boolean>) {
      state.sourceHeld = payload;
    },
  },
  extraReducers: (build) =>
    build.addCase(shotLeft, (state) => {
      state.drawFor = 'layer';
    }),
});
export const { brushSet, toolChosen, drawingFor, layerCopied, pickingFor, recolourTurned, sourceHeld, strokeChosen } =
  handSlice.actions;
