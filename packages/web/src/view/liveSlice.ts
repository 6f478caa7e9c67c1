import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import type { Lab } from '@mellow/core';
import { shotLeft } from './shotLeft.ts';
import { moved, projectOpened } from './whereSlice.ts';

interface LiveColour {
  meanLinear: [number, number, number];
  lab: Lab;
  /** The mean without sheen, where it is told apart. */
  body?: [number, number, number];
}
/** The piece on the shown frame, measured as it is shown. */
export interface Live {
  /** The frame these are the figures of: the last one shown, until the one gone to is measured. */
  frame: number;
  before: LiveColour;
  after: LiveColour;
  pixels: number;
  /** How much of what looks like the piece is selected; what the recolour has clipped of it. Shares, 0..1. */
  coverage: number;
  resultClippedShare: number;
}
const NOT_MEASURED = null as Live | null;

export const liveSlice = createSlice({
  name: 'live',
  initialState: NOT_MEASURED,
  reducers: { measuredLive: (_state, { payload }: PayloadAction<Live | null>) => payload },
  extraReducers: (build) =>
    build
      .addCase(shotLeft, () => NOT_MEASURED)
      .addCase(projectOpened, () => NOT_MEASURED)
      .addCase(moved, (state, { payload }) => (payload.pieceId ? NOT_MEASURED : state)),
});
export const { measuredLive } = liveSlice.actions;
