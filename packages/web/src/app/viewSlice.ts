import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import type { Animated, Balance, CleanUp, Ease, Layer, Shift, Spill, Track } from '@mellow/contract';
import type { Surround } from './theme.ts';

export const VIEWS = ['Result', 'Source', 'Matte', 'Tint', 'Cut-out', 'Difference'] as const;
export type View = (typeof VIEWS)[number];
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
  'hand',
] as const;
export const COMPARES = ['off', 'wipe', 'side by side', 'blink'] as const;
export type Compare = (typeof COMPARES)[number];
export const GROUNDS = ['grey', 'black', 'white'] as const;
export type Tool = (typeof TOOLS)[number];

/** Where the user is in a project; brought back after a reload. */
export interface Place {
  shotId: string | null;
  pieceId: string | null;
  colourwayId: string | null;
  layerId: string | null;
  frame: number;
  view: View;
  /** Tint strength, 0..1. */
  tint: number;
  /** What a cut-out lies on. */
  ground: (typeof GROUNDS)[number];
  compare: Compare;
  /** Where the wipe's line passes (0..1 of the picture) and its direction, degrees from upright. */
  wipe: { x: number; y: number; deg: number };
  /** Brightness of the view only, stops, for drawing in the dark. */
  liftStops: number;
  /** A layer whose own matte is shown instead of the stack's. */
  soloId: string | null;
  trackId: string | null;
  /** The view holds the track in hand still. */
  holdTrack: boolean;
  /** Edits make keyframes where there are none; they go to all keyframes alike; how a new keyframe goes on. */
  autoKey: boolean;
  everywhere: boolean;
  ease: Ease;
  /** The frames played in a loop, both included; null: the whole shot. */
  loop: { from: number; to: number } | null;
}
/** What a hand is moving right now: shown at once, saved as one step when it lets go. */
export interface Draft {
  sighting?: { sightingId: string; layers?: Layer[]; cleanUp?: CleanUp; spill?: Spill; animated?: Animated };
  balance?: { shotId: string; balance: Balance };
  recipe?: {
    pieceId: string;
    colourwayId: string;
    shift: Shift;
    strength: number;
    animated?: Record<string, Animated>;
  };
  track?: Track;
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
  /** What lies under the pointer in the picture, in OKLab; where the pointer is in the key field. */
  probe: { L: number; a: number; b: number } | null;
  near: { a: number; b: number } | null;
  /** A copied layer, ready to be pasted in any stack. */
  clipboard: Layer | null;
  /** Chosen keyframes in the lanes under the ruler, as `lane@frame`. */
  keysChosen: string[];
  /** What the next drawn shape becomes. */
  drawFor: 'layer' | 'track' | 'hold-out' | 'spill';
  /** Colour of the piece on the shown frame, measured live. */
  live: { before: Lab3; after: Lab3; pixels: number } | null;
}
type Lab3 = { meanLinear: [number, number, number]; lab: { L: number; a: number; b: number } };

const nowhere: Place = {
  shotId: null,
  pieceId: null,
  colourwayId: null,
  layerId: null,
  frame: 0,
  view: 'Result',
  tint: 0.6,
  ground: 'grey',
  compare: 'off',
  wipe: { x: 0.5, y: 0.5, deg: 0 },
  liftStops: 0,
  soloId: null,
  trackId: null,
  holdTrack: false,
  autoKey: false,
  everywhere: false,
  ease: 'smooth',
  loop: null,
};
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
  probe: null,
  near: null,
  clipboard: null,
  keysChosen: [],
  drawFor: 'layer',
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
      state.place = {
        ...state.place,
        ...(moved && { frame: 0, layerId: null, soloId: null, trackId: null, holdTrack: false, loop: null }),
        ...payload,
      };
      if (moved || payload.pieceId) state.live = null;
      if (moved) {
        state.playing = false;
        state.keysChosen = [];
        state.drawFor = 'layer';
      }
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
    sightingDragged(state, { payload }: PayloadAction<NonNullable<Draft['sighting']>>) {
      state.draft.sighting = payload;
    },
    balanceDragged(state, { payload }: PayloadAction<NonNullable<Draft['balance']>>) {
      state.draft.balance = payload;
    },
    probed(state, { payload }: PayloadAction<ViewState['probe']>) {
      state.probe = payload;
    },
    fieldHovered(state, { payload }: PayloadAction<ViewState['near']>) {
      state.near = payload;
    },
    layerCopied(state, { payload }: PayloadAction<Layer>) {
      state.clipboard = payload;
    },
    trackDragged(state, { payload }: PayloadAction<Track>) {
      state.draft.track = payload;
    },
    keysPicked(state, { payload }: PayloadAction<string[]>) {
      state.keysChosen = payload;
    },
    drawingFor(state, { payload }: PayloadAction<ViewState['drawFor']>) {
      state.drawFor = payload;
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
export const {
  projectOpened,
  placeChanged,
  toolChosen,
  sourceHeld,
  playToggled,
  surroundChosen,
  savingChanged,
  sightingDragged,
  balanceDragged,
  probed,
  fieldHovered,
  layerCopied,
  trackDragged,
  keysPicked,
  drawingFor,
  recipeDragged,
  draftDropped,
  measuredLive,
} = viewSlice.actions;
