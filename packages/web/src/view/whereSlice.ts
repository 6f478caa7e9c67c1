import { createSlice, type PayloadAction } from '@reduxjs/toolkit';

/** Where the user is in a project; brought back after a reload. */
export interface Where {
  shotId: string | null;
  pieceId: string | null;
  colourwayId: string | null;
  layerId: string | null;
  trackId: string | null;
  frame: number;
  /** The frames played in a loop, both included; null: the whole shot. */
  loop: { from: number; to: number } | null;
  /** A layer whose own matte is shown instead of the stack's. */
  soloId: string | null;
  /** The view holds the track in hand still. */
  pinTrack: boolean;
}
export const NOWHERE: Where = {
  shotId: null,
  pieceId: null,
  colourwayId: null,
  layerId: null,
  trackId: null,
  frame: 0,
  loop: null,
  soloId: null,
  pinTrack: false,
};

/** What belongs to a shot and is left behind with it. */
const AT_ITS_START = { frame: 0, layerId: null, trackId: null, loop: null, soloId: null, pinTrack: false };

export const whereSlice = createSlice({
  name: 'where',
  initialState: { ...NOWHERE, projectId: null as string | null },
  reducers: {
    /** A project was opened; `left` is where its user was before. */
    projectOpened: (state, { payload }: PayloadAction<{ projectId: string; left: Where }>) =>
      state.projectId === payload.projectId ? state : { ...payload.left, projectId: payload.projectId },
    moved(state, { payload }: PayloadAction<Partial<Where>>) {
      const isOtherShot = payload.shotId !== undefined && payload.shotId !== state.shotId;
      Object.assign(state, isOtherShot && AT_ITS_START, payload);
    },
  },
});
export const { projectOpened, moved } = whereSlice.actions;
