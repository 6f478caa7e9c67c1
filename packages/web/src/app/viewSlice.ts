import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import type { Layer, Shift } from '@mellow/contract';
import type { Surround } from './theme.ts';

export const VIEWS = ['Result', 'Source', 'Matte', 'Tint'] as const;
export type View = (typeof VIEWS)[number];
export const TOOLS = ['select', 'pick-add', 'pick-remove', 'rectangle', 'ellipse', 'spline', 'hand'] as const;
export type Tool = (typeof TOOLS)[number];

/** Where the user is in a project; brought back after a reload. */
export interface Place {
  shotId: string | null;
  pieceId: string | null;
  colourwayId: string | null;
  layerId: string | null;
  frame: number;
  view: View;
}
/** What a hand is moving right now: shown at once, saved as one step when it lets go. */
export interface Draft {
  layers?: { sightingId: string; layers: Layer[] };
  recipe?: { pieceId: string; colourwayId: string; shift: Shift; strength: number };
}
interface ViewState {
  projectId: string | null;
  place: Place;
  tool: Tool;
  holdSource: boolean;
  playing: boolean;
  surround: Surround;
  saving: 'saved' | 'saving' | 'offline';
  draft: Draft;
  /** Colour of the piece on the shown frame, measured live. */
  live: { before: Lab3; after: Lab3; pixels: number } | null;
}
type Lab3 = { meanLinear: [number, number, number]; lab: { L: number; a: number; b: number } };

const nowhere: Place = { shotId: null, pieceId: null, colourwayId: null, layerId: null, frame: 0, view: 'Result' };
const stored = <T>(key: string, fallback: T): T => {
  try {
    return { ...fallback, ...(JSON.parse(localStorage.getItem(key) ?? '{}') as T) };
  } catch {
    return fallback;
  }
};

const initial: ViewState = {
  projectId: null,
  place: nowhere,
  tool: 'select',
  holdSource: false,
  playing: false,
  surround: (globalThis.localStorage?.getItem('mellow:surround') as Surround | null) ?? 'dim',
  saving: 'saved',
  draft: {},
  live: null,
};

export const viewSlice = createSlice({
  name: 'view',
  initialState: initial,
  reducers: {
    projectOpened(state, { payload }: PayloadAction<string>) {
      if (state.projectId === payload) return;
      state.projectId = payload;
      state.place = stored(`mellow:place:${payload}`, nowhere);
      state.draft = {};
      state.live = null;
      state.playing = false;
    },
    placeChanged(state, { payload }: PayloadAction<Partial<Place>>) {
      const moved = payload.shotId !== undefined && payload.shotId !== state.place.shotId;
      state.place = { ...state.place, ...(moved && { frame: 0, layerId: null }), ...payload };
      if (moved || payload.pieceId) state.live = null;
      if (moved) state.playing = false;
    },
    toolChosen(state, { payload }: PayloadAction<Tool>) {
      state.tool = payload;
    },
    sourceHeld(state, { payload }: PayloadAction<boolean>) {
      state.holdSource = payload;
    },
    playToggled(state, { payload }: PayloadAction<boolean | undefined>) {
      state.playing = payload ?? !state.playing;
    },
    surroundChosen(state, { payload }: PayloadAction<Surround>) {
      state.surround = payload;
    },
    savingChanged(state, { payload }: PayloadAction<ViewState['saving']>) {
      state.saving = payload;
    },
    layersDragged(state, { payload }: PayloadAction<Draft['layers']>) {
      state.draft.layers = payload;
    },
    recipeDragged(state, { payload }: PayloadAction<Draft['recipe']>) {
      state.draft.recipe = payload;
    },
    draftDropped(state) {
      state.draft = {};
    },
    measuredLive(state, { payload }: PayloadAction<ViewState['live']>) {
      state.live = payload;
    },
  },
});
export const { projectOpened, placeChanged, toolChosen, sourceHeld, playToggled, surroundChosen, savingChanged, layersDragged, recipeDragged, draftDropped, measuredLive } = viewSlice.actions;
